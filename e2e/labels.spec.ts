import { localApp } from './local-app';
import { ENGINES, contentOf, needs, recordIn } from './scripted';
import { expect, startRecording, stopRecording, stingList, test } from './stage';

const INNER = `<!doctype html><title>Inner</title><style>button { width: 280px; height: 120px }</style><button id="in-frame">Cast off the ferry</button>`;
const PAGE = `<!doctype html><title>Crew</title><link rel="icon" href="data:,">
<button id="board-all">Board everybody</button>
<input id="crew-name" value="Maren Tide-secret"><label for="crew-name">Name</label>
<table><tr id="crew-row"><td>Isla Row-secret</td></tr></table><p id="crew-note">Note-secret</p>
<br><iframe id="quay" src="/inner.html"></iframe>`;
const STEPS = ['#board-all', '#crew-name', '#crew-row td', '#crew-note', '#quay'].flatMap((on) => [
  { do: 'click', on },
  { do: 'wait', ms: 150 },
]);

const crew = () =>
  localApp(({ url }, response) => {
    response.writeHead(200, { 'content-type': 'text/html' });
    response.end(url!.startsWith('/inner') ? INNER : PAGE);
  });

for (const engine of ENGINES) {
  test(`${engine}: controls are named by their text where it is asked for, fields and rows never`, async () => {
    needs(engine);
    const app = await crew();
    const targets = async (labels: 'ids' | 'texts') => {
      const recording = await recordIn(engine, app.url, 'everyday', STEPS, { labels });
      expect(contentOf(recording)).not.toContain('secret');
      return new Set([...recording.events.input.rows()].map(({ target }) => target));
    };
    expect(await targets('texts')).toEqual(
      new Set([
        'button “Board everybody”',
        'text field “Crew name”',
        'cell in “Crew row”',
        'element “Crew note”',
        'button “Cast off the ferry” in frame “Quay”',
      ]),
    );
    const byIds = await targets('ids');
    expect(byIds).toContain('button “Board all”');
    expect(byIds).toContain('button “In frame” in frame “Quay”');
    app.close();
  });
}

test('it is asked for in the Record view, and holds for the page that is open', async ({ stage }) => {
  const desk = await stage.openDesk();
  await stage.tool.bringToFront();
  await stage.tool.getByRole('button', { name: /^What is kept/ }).click();
  await stage.tool.getByRole('checkbox', { name: /by their visible text/ }).check();
  await startRecording(stage.tool, desk);
  await desk.click('#board-all');
  await desk.waitForTimeout(1200);
  await stopRecording(stage.tool);
  const text = await desk.locator('#board-all').textContent();
  await expect(stingList(stage.tool).first()).toContainText(`Tap button “${text!.trim()}”`);
});
