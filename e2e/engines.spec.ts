import { expect, test, type Browser } from '@playwright/test';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import { becauseOf, becauseText, type Anatomy, type Recording } from '../packages/server/dist/index.js';
import { CALM } from './calm';
import { ENGINES, needs, recordIn, where, worst } from './scripted';
import type { LocalApp } from './local-app';
import { listening } from '../scripts/lib/listening.mjs';

const MOVES = 4;
const BY = { x: 60, y: 20 };
const DRAGGED = '.vehicle:nth-child(60)';

const STEPS = [
  { do: 'wait-for', on: '[data-ready]' },
  { do: 'wait', ms: 600 },
  { do: 'click', on: '#board-all' },
  { do: 'wait', ms: 1400 },
  { do: 'click', on: '#undo-boarding' },
  { do: 'wait', ms: 600 },
  { do: 'click', on: '#search-manifest' },
  { do: 'wait', ms: 500 },
  { do: 'type', text: 'h' },
  { do: 'wait', ms: 1800 },
  { do: 'drag', on: DRAGGED, by: BY, moves: MOVES, everyMs: 400 },
  { do: 'wait', ms: 800 },
];

/**
 * Counts, without the recorder, how often the desk reads `offsetLeft` after a style has got another text: in the
 * same drag, done by hand.
 */
async function countByHand(browser: Browser, url: string): Promise<number> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(url);
  await page.waitForSelector('[data-ready]');
  await page.evaluate(() => {
    const scope = globalThis as unknown as { forced: number };
    scope.forced = 0;
    const texts = () =>
      [...document.querySelectorAll<HTMLElement>('.vehicle')].map((it) => it.style.cssText).join();
    let before = texts();
    const native = Object.getOwnPropertyDescriptor(HTMLElement.prototype, 'offsetLeft')!;
    Object.defineProperty(HTMLElement.prototype, 'offsetLeft', {
      get(this: HTMLElement) {
        const now = texts();
        if (now !== before) scope.forced++;
        before = now;
        return Reflect.apply(native.get!, this, []) as number;
      },
    });
  });
  const box = (await page.locator(DRAGGED).boundingBox())!;
  const [x, y] = [Math.floor(box.x + box.width / 2), Math.floor(box.y + box.height / 2)];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let move = 1; move <= MOVES; move++) {
    await page.mouse.move(x + Math.round((BY.x * move) / MOVES), y + Math.round((BY.y * move) / MOVES));
    await page.waitForTimeout(100);
  }
  await page.mouse.up();
  const forced = await page.evaluate(() => (globalThis as unknown as { forced: number }).forced);
  await page.close();
  return forced;
}

let desk: LocalApp;
let origin: string;
let url: string;
let forcedByHand: number;

test.beforeAll(async ({ browser }) => {
  desk = await listening(createDeskServer());
  origin = desk.url;
  url = `${origin}${CALM}`;
  forcedByHand = await countByHand(browser, url);
});

test.afterAll(() => {
  desk.close();
});

function expectWhole({ sting, blame, phases }: Anatomy): void {
  expect(Math.abs(blame.totalMs - sting.feltMs)).toBeLessThan(0.1);
  const phasesMs = phases.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0);
  expect(Math.abs(phasesMs - sting.feltMs)).toBeLessThan(0.1);
}

function culprit(recording: Recording, anatomy: Anatomy, index = 0): string {
  return where(recording, anatomy.culprits[index]?.functionId);
}

for (const engine of ENGINES) {
  test(`${engine}, exact calls: board all, manifest search and deck drag, each down to the line`, async () => {
    needs(engine);
    test.setTimeout(120_000);
    const recording = await recordIn(engine, url, 'exact', STEPS);
    expect(recording.header.mode).toBe('exact');

    const board = worst(recording, 'Tap button “Board all”')!;
    expectWhole(board);
    expect(culprit(recording, board)).toMatch(/^bendingOfPair src\/desk\/deck\/trim\.ts:\d+$/);
    expect(board.culprits[0]!.exactMs).toBeGreaterThan(board.sting.feltMs / 2);
    expect(becauseText(becauseOf(recording, board))).toMatch(
      /onBoardAll ran for [\d,]+ ms: \d+ % of it in bending/,
    );

    const search = worst(recording, 'Type in search field “Search manifest”')!;
    expectWhole(search);
    expect(culprit(recording, search)).toMatch(/^foldAccents src\/desk\/manifest\/fold\.ts:\d+$/);
    expect(search.culprits[0]!.count).toBeGreaterThan(100_000);

    const forced = [...recording.events.forced.rows()].filter(({ read }) => read === 'offsetLeft');
    const inDrag = forced.filter((row) => where(recording, row.function).startsWith('makeRoomOneByOne '));
    expect(inDrag.reduce((sum, { count }) => sum + count, 0)).toBe(forcedByHand);
    const most = inDrag.reduce((a, b) => (b.count > a.count ? b : a));
    expect(where(recording, most.function)).toMatch(/^makeRoomOneByOne src\/desk\/deck\/drag\.ts:\d+$/);
    expect(where(recording, most.writer)).toBe(where(recording, most.function));
    expect(most.write).toBe('style');
  });

  test(`${engine}, everyday: what was tapped, its delay, the handler and the forced layout`, async () => {
    needs(engine);
    test.setTimeout(120_000);
    const recording = await recordIn(engine, url, 'everyday', STEPS);
    const board = worst(recording, 'Tap button “Board all”')!;
    expectWhole(board);
    const handlers = board.handlers.map((handler) => where(recording, handler.function));
    expect(handlers.filter((name) => /^onBoardAll src\/desk\/deck\/deck\.ts:\d+$/.test(name))).not.toEqual(
      [],
    );
    expect(board.blame.unexplainedMs).toBeLessThan(board.sting.feltMs / 5);
    const search = worst(recording, 'Type in search field “Search manifest”')!;
    expectWhole(search);
    if (engine === 'chromium') {
      expect(culprit(recording, board)).toMatch(/^bendingOfPair src\/desk\/deck\/trim\.ts:\d+$/);
    }
    const counts = [...recording.events.forced.rows()]
      .filter(({ read }) => read === 'offsetLeft')
      .reduce((sum, { count }) => sum + count, 0);
    expect(counts).toBe(forcedByHand);
  });
}

test('with the mended versions there is no forced layout in a loop', { tag: '@waits' }, async () => {
  needs('chromium');
  test.setTimeout(120_000);
  const recording = await recordIn('chromium', `${origin}?mended=all`, 'exact', STEPS);
  const counts = [...recording.events.forced.rows()]
    .filter(({ read }) => read === 'offsetLeft')
    .map(({ count }) => count);
  expect(Math.max(...counts, 0)).toBeLessThanOrEqual(1);
  expect(worst(recording, 'Tap button “Board all”')).toBeUndefined();
});
