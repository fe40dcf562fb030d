import { describe, expect, it } from 'vitest';
import { stingOf } from '../detectors/detector';
import { findStings } from '../detectors/index';
import { DETECTORS, type StingKind } from '../detectors/list';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { suggestionsFor } from '../suggestions/suggest';
import { recorded } from '../testing/recorded';
import { anatomyOf } from './anatomy';
import { becauseOf } from '../detectors/because';
import { causeChain } from './cause-chain';
import { idleReasons } from './idle-reason';
import { becauseText } from './sentence';

/** The sentence of the longest sting of a kind in a recording of the boarding desk. */
function sentence(name: string, kind: StingKind): string {
  const recording = recorded(name);
  const stings = DETECTORS.flatMap((detector) =>
    detector.find(recording, DEFAULT_THRESHOLDS).map((found) => stingOf(detector, found)),
  );
  const [sting] = stings.filter((one) => one.kind === kind).sort((a, b) => b.feltMs - a.feltMs);
  return becauseText(becauseOf(recording, anatomyOf(recording, sting!)));
}

describe('the sentence of', () => {
  it('a slow response, by samples', () => {
    expect(sentence('manifest-search', 'slow-response')).toMatchInlineSnapshot(
      `"The screen answered the key typed in search field “Search manifest” after 696 ms, more than three times the budget of 200 ms. onSearchInput ran for 653 ms: by samples about 60 % of it in foldAccents. For 251 ms of script no stack was sampled; what ran is inferred from the samples around it."`,
    );
  });
  it('a slow response, exactly', () => {
    expect(sentence('board-all-exact', 'slow-response')).toMatchInlineSnapshot(
      `"The screen answered the tap on button “Board all” after 920 ms, nearly five times the budget of 200 ms. onBoardAll ran for 849 ms: 97 % of it in bendingOfPair, called 44,850 times. The picture came about 64 ms later, while the thread was free for most of that."`,
    );
  });
  it('a slow response for which the engine gave no stack', () => {
    expect(sentence('board-all', 'slow-response')).toMatchInlineSnapshot(
      `"The screen answered the tap on button “Board all” after 840 ms, more than four times the budget of 200 ms. onBoardAll ran for 776 ms: probably about 99 % of it in bendingOfPair. The picture came about 56 ms later, while the thread was free for most of that. For 664 ms of script no stack was sampled; what ran is inferred from the samples around it."`,
    );
  });
  it('a hang', () => {
    expect(sentence('start-up', 'hang')).toMatchInlineSnapshot(
      `"The main thread hung for 358 ms, more than seven times the budget of 50 ms. Code in fares.js ran for 319 ms: by samples about 96 % of it in parseFares. For 104 ms of script no stack was sampled; what ran is inferred from the samples around it. Of all this, 22 ms are unexplained."`,
    );
  });
  it('a long task', () => {
    expect(sentence('departures-poll', 'long-task')).toMatchInlineSnapshot(
      `"The main thread was taken for 190 ms, nearly four times the budget of 50 ms. loadDepartures ran for 184 ms: by samples about 95 % of it in parseDepartures. For 74 ms of script no stack was sampled; what ran is inferred from the samples around it."`,
    );
  });
  it('late frames', () => {
    expect(sentence('deck-drag', 'late-frames')).toMatchInlineSnapshot(
      `"For 3.4 s the picture lagged: 8 frames came late, the worst 477 ms after the one before it where the display waits 17 ms, and 185 were missed. Of the busy time 88 % went to makeRoomOneByOne, with 2,663 ms in layout forced 2,379 times by makeRoomOneByOne. Of all this, 275 ms are unexplained."`,
    );
  });
  it('forced layout', () => {
    expect(sentence('deck-drag', 'forced-layout')).toMatchInlineSnapshot(
      `"makeRoomOneByOne made the browser lay the page out 298 times in one task, by reading offsetLeft after style had been written: 402 ms, in which nothing else could run."`,
    );
  });
  it('idle work that draws the same again', () => {
    expect(sentence('tide-chart', 'idle-work')).toMatchInlineSnapshot(
      `"While nobody did anything, drawTideInEveryFrame ran 48 times a second and took 279 ms of each second; in 99 % of its redraws it wrote to element “Tide figure” what was there before. By samples 45 % of that went to an unnamed function in tidePath (tide/tide-chart.ts:26)."`,
    );
  });
  it('idle work that comes now and then', () => {
    expect(sentence('departures-poll', 'idle-work')).toMatchInlineSnapshot(
      `"While nobody did anything, loadDepartures ran every 3.7 s and took 38 ms of each second; in 75 % of its redraws it wrote to element “Departures rows” what was there before. Who wrote is inferred: the recording does not tell it, and this ran last before. By samples 93 % of that went to parseDepartures."`,
    );
  });
  it('creep', () => {
    expect(sentence('deck-log', 'creep')).toMatchInlineSnapshot(
      `"The longer the app ran, the more an unnamed function in constructor (deck/log.ts:24) took: 12 ms of each second at first, 50 ms at the end. That is 197 ms more each minute (153 to 221). It ran no more often than before, so each run costs more. By samples 44 % of that went to standingFor."`,
    );
  });
  it('names first the function that moves something by layout, though the layout takes the time', () => {
    const recording = recorded('ticker');
    const [sting] = findStings(recording, DEFAULT_THRESHOLDS).filter(({ label }) => /moveNotice/.test(label));
    const [first] = anatomyOf(recording, sting!).culprits;
    expect(recording.functions.get(first!.functionId)!.originalName).toBe('moveNotice');
    expect(first!.savedMs).toBeGreaterThan(first!.chargedMs);
  });
  it('calls that are too many', () => {
    expect(sentence('board-all-exact', 'too-often')).toMatchInlineSnapshot(
      `"One task called bendingOfPair 44,850 times: 822 ms, 97 % of the task, where a frame has 17 ms."`,
    );
  });
});

function advice(name: string): string[] {
  const recording = recorded(name);
  return findStings(recording, DEFAULT_THRESHOLDS)
    .filter(({ label }) => !/Response\.|Answer to|^Frame callback$/.test(label))
    .flatMap((sting) => suggestionsFor(recording, anatomyOf(recording, sting)))
    .map(({ kind }) => kind);
}

describe('advice', () => {
  it.each([
    ['deck-drag', 'read-before-write'],
    ['board-all-exact', 'keep-results'],
    ['board-all', 'give-way'],
    ['tide-chart', 'skip-unchanged'],
    ['departures-poll', 'skip-unchanged'],
    ['start-up', 'after-first-paint'],
  ])('for %s is %s, and there is none for the mended version', (name, kind) => {
    expect(advice(name)).toContain(kind);
    expect(advice(`${name}-mended`)).not.toContain(kind);
  });
});

describe('the cause of the poll', () => {
  const recording = recorded('departures-poll');
  const answers = [...recording.events.handler.rows()].filter(({ invoker }) => invoker.startsWith('fetch '));

  it('leads from its answer over the request to the timer', () => {
    const chain = causeChain(recording, answers[0]!);
    expect(chain.map((link) => (link.type === 'schedule' ? link.what : link.type))).toEqual([
      'interval',
      'handler',
      'request',
      'handler',
    ]);
  });

  it('is what an idle thread waited for before: its request, or its timer', () => {
    const [first] = answers;
    const timer = [...recording.events.handler.rows()].find(({ invoker }) =>
      invoker.includes('setInterval'),
    )!;
    const before = (endMs: number) => idleReasons(recording, 0, { startMs: endMs - 20, endMs });
    expect(before(first!.startMs).map(({ type }) => type)).toEqual(['request']);
    expect(before(timer.startMs)).toMatchObject([{ type: 'timer', delayMs: 4000 }]);
  });
});
