import { expect as expectBare, test as bare } from '@playwright/test';
import {
  interactionsOf,
  keptSteps,
  recordScript,
  type Recording,
  type Step,
} from '../packages/server/dist/index.js';
import { localApp, type LocalApp } from './local-app';
import { ENGINES, needs, recordIn, recordingOf } from './scripted';
import { expect, startRecording, stingList, stopRecording, test } from './stage';

const PAGE = `<!doctype html><title>Quay</title><link rel="icon" href="data:,">
<style>#deck { width: 300px; height: 120px; background: #ccd; touch-action: none } #hold { height: 90px; overflow: auto } #hold p { height: 400px }</style>
<button id="cast-off">Cast off</button> <button data-testid="twice">Twice</button>
<ul id="lanes"><li>one</li><li>two</li><li>three</li></ul>
<input id="search" autocomplete="off"> <input id="pass" type="password"> <input name="card" autocomplete="cc-number">
<div id="deck"></div><div id="hold"><p>long</p></div>`;

const TAKEN: Step[] = [
  { do: 'click', on: '#cast-off' },
  { do: 'double-click', on: '[data-testid="twice"]' },
  { do: 'click', on: '#lanes > li:nth-of-type(2)', at: { x: 9, y: 2 } },
  { do: 'click', on: '#search' },
  { do: 'type', text: 'pier nine' },
  { do: 'key', key: 'Enter' },
  { do: 'key', key: 'a', with: ['Control'] },
  { do: 'click', on: '#pass' },
  { do: 'type', text: 'hidden-in-pass' },
  { do: 'click', on: 'input[name="card"]' },
  { do: 'type', text: '4929-hidden' },
  { do: 'drag', on: '#deck', at: { x: -100, y: 10 }, by: { x: 150, y: -20 }, moves: 6, everyMs: 25 },
  { do: 'scroll', on: '#hold', by: { x: 0, y: 120 } },
];

/** Steps with what depends on how quick the machine is left out, and no waits. */
function withoutPace(steps: readonly Step[]): object[] {
  return steps
    .filter((step) => step.do !== 'wait')
    .map((step) => ({ ...step, everyMs: undefined, moves: undefined }));
}

const asByHand = (recording: Recording): Recording => ({
  ...recording,
  header: { ...recording.header, replay: undefined },
});

bare.describe('what is kept of a person’s input', () => {
  let app: LocalApp;
  let url = '';

  bare.beforeAll(async () => {
    app = await localApp(
      (_request, response) => void response.setHeader('content-type', 'text/html').end(PAGE),
    );
    ({ url } = app);
  });
  bare.afterAll(() => app.close());

  for (const engine of ENGINES) {
    bare(
      `${engine}: the steps that are kept are those that were taken; what is secret has only a length`,
      async () => {
        needs(engine);
        const paced = TAKEN.flatMap((step): Step[] => [step, { do: 'wait', ms: 500 }]);
        const recording = await recordIn(engine, url, 'everyday', paced, { steps: 'texts' });
        const kept = keptSteps(asByHand(recording))!.steps;
        const secret = (step: Step) =>
          step.do === 'type' && step.text!.includes('hidden')
            ? { do: 'type', length: step.text!.length, everyMs: undefined, moves: undefined }
            : step;
        expectBare(withoutPace(kept)).toEqual(withoutPace(TAKEN.map((step) => secret(step) as Step)));
        expectBare(kept.filter((step) => step.do === 'wait').length).toBeGreaterThan(TAKEN.length - 3);
        expectBare(JSON.stringify([...recording.events.step.rows()])).not.toContain('hidden');
      },
    );
  }

  bare('no word is kept unless that is allowed, and nothing where it is switched off', async () => {
    needs('chromium');
    const typed = TAKEN.filter((step) => step.do === 'click' || step.do === 'type');
    const usual = await recordIn('chromium', url, 'everyday', typed, { steps: 'places' });
    const told = JSON.stringify([...usual.events.step.rows()]);
    expectBare(told).toContain('"length\\":9');
    expectBare(told).not.toMatch(/pier|nine|hidden/);
    const off = await recordIn('chromium', url, 'everyday', typed);
    expectBare(off.events.step.length).toBe(0);
    expectBare(off.header.available).not.toContain('steps');
  });
});

for (const engine of ENGINES) {
  bare(`${engine}: each round begins with a load of its own, and all are in one recording`, async () => {
    needs(engine);
    let loads = 0;
    const app = await localApp((request, response) => {
      if (request.url === '/') loads++;
      response.setHeader('content-type', 'text/html').end(PAGE);
    });
    try {
      const recorded = await recordScript({
        url: new URL(app.url),
        steps: [{ do: 'click', on: '#cast-off' }],
        settings: { mode: 'everyday' },
        browser: engine,
        repeat: 3,
        freshLoads: true,
      });
      expectBare(recorded.failure).toBeUndefined();
      const recording = recordingOf(recorded.lines);
      const taps = interactionsOf(recording).filter(({ label }) => /cast off/i.test(label));
      expectBare(taps).toHaveLength(3);
      expectBare(loads).toBe(3);
    } finally {
      app.close();
    }
  });
}

test(
  'what was done is changed, done again ten times less eight, and held against itself',
  { tag: '@waits' },
  async ({ stage }) => {
    needs('chromium');
    test.setTimeout(150_000);
    const { tool } = stage;
    const desk = await stage.openDesk();
    await startRecording(tool, desk);
    await desk.click('#board-all');
    await desk.waitForTimeout(1500);
    await desk.click('#search-manifest');
    await desk.keyboard.type('ha', { delay: 500 });
    await desk.waitForTimeout(1200);
    await stopRecording(tool);

    await tool.getByRole('button', { name: 'Repeat automatically' }).click();
    const dialog = tool.getByRole('dialog', { name: 'Repeat automatically' });
    const steps = dialog.getByRole('listitem');
    await expect(steps.first()).toContainText('#board-all');
    await expect(dialog.getByText('letters stand in for it')).toBeVisible();
    await dialog.getByRole('button', { name: 'Edit as a file' }).click();
    const area = dialog.getByRole('textbox', { name: 'Steps as a file' });
    await area.fill('{"steps":[{"do":"sail"}]}');
    await dialog.getByRole('button', { name: 'Apply' }).click();
    await expect(dialog.getByRole('alert')).toContainText('step 1: "do" must be one of');
    await area.fill(
      '{"steps":[{"do":"click","on":"#search-manifest"},{"do":"wait","ms":300},{"do":"type","text":"h"},{"do":"wait","ms":1200},{"do":"key","key":"Backspace"},{"do":"wait","ms":1200}]}',
    );
    await dialog.getByRole('button', { name: 'Apply' }).click();
    await expect(steps).toHaveCount(6);

    for (const held of ['Record again', 'Compare with before']) {
      await dialog.getByRole('spinbutton', { name: 'Other number of times' }).fill('2');
      await dialog.getByRole('spinbutton', { name: 'Other number of times' }).press('Tab');
      await dialog.getByRole('button', { name: 'Run 2 times' }).click();
      await expect(dialog.getByRole('status')).toContainText(/Starting the browser|Round/);
      await expect(dialog).toBeHidden({ timeout: 60_000 });
      await expect(tool.getByRole('heading', { level: 1 })).toContainText('2 ×');
      await expect(stingList(tool).filter({ hasText: 'Search manifest' }).first()).toBeVisible();
      await expect(tool.getByText(held, { exact: true })).toBeVisible();
      await tool.getByRole('button', { name: 'Repeat automatically' }).click();
      await expect(steps).toHaveCount(6);
    }
    await dialog.getByRole('button', { name: 'Close' }).click();
    await tool.getByText('Compare with before').click();
    await expect(tool.getByText('Search manifest').first()).toBeVisible();
  },
);

test(
  'a step that cannot be taken is named, and what came before is kept',
  { tag: '@waits' },
  async ({ stage }) => {
    needs('chromium');
    const { tool } = stage;
    await stage.openDesk();
    const steps = [
      { do: 'click', on: '#board-all' },
      { do: 'click', on: '#lighthouse' },
    ];
    await tool.bringToFront();
    const file = {
      name: 'steps.json',
      mimeType: 'application/json',
      buffer: Buffer.from(JSON.stringify({ steps })),
    };
    await tool.getByLabel('Recording file').setInputFiles(file);
    const dialog = tool.getByRole('dialog', { name: 'Repeat automatically' });
    await dialog
      .getByRole('button', { name: '1', exact: true })
      .or(dialog.getByRole('radio', { name: '1', exact: true }))
      .click();
    await dialog.getByRole('button', { name: 'Run once' }).click();
    await expect(dialog.getByRole('alert')).toContainText('step 2 (click): nothing matched "#lighthouse"', {
      timeout: 40_000,
    });
    await dialog.getByRole('button', { name: 'Close' }).click();
    await expect(tool.getByText('Tap button “Board all”').first()).toBeVisible();
  },
);
