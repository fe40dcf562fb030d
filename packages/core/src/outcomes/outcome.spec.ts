import { describe, expect, it } from 'vitest';
import { compareSeries } from '../compare/compare-series';
import { checkBudget } from '../report/budget';
import { budgetSchema } from '../report/budget-schema';
import { becauseText } from '../explanation/sentence';
import { anatomyOf } from '../explanation/anatomy';
import { becauseOf } from '../detectors/because';
import type { Row } from '../format/rows';
import type { Recording } from '../recording/recording';
import { tableAsCsv } from '../export/tables';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { suggestionsFor } from '../suggestions/suggest';
import { interactionsOf } from '../inputs/interactions';
import { recordingOf } from '../testing/arbitrary-recording';
import { PICTURE_MS, asked, came, drawn, tap, recordingOfChain } from '../testing/chain-rows';
import { outcomesOf } from './outcome';

const only = (recording: Recording) => outcomesOf(recording)[0];

describe('the outcome of an input', () => {
  it('is the picture of the last change that came of it, by steps that follow each other', () => {
    const recording = recordingOfChain(
      ...tap(100, 1),
      asked(105, 11, 1, { delayMs: 300 }),
      came(410, 20, 2, 11),
      asked(425, 12, 2, { type: 'request', url: 'http://localhost/api/crew' }),
      {
        kind: 'request',
        thread: 0,
        startMs: 426,
        durationMs: 500,
        url: 'http://localhost/api/crew',
        initiator: 'fetch',
      },
      came(1000, 100, 3, 12),
      ...drawn(1105, 3),
    );
    const outcome = only(recording)!;
    expect([outcome.startMs, outcome.endMs, outcome.target]).toEqual([100, 1109, 'list “Crew”']);
    expect(outcome.steps.map(({ name, startMs, endMs }) => [name, startMs, endMs])).toEqual([
      ['waiting', 100, 102],
      ['handling', 102, 105],
      ['timer', 105, 405],
      ['waiting', 405, 410],
      ['handling', 410, 425],
      ['request', 425, 926],
      ['waiting', 926, 1000],
      ['handling', 1000, 1100],
      ['drawing', 1100, 1109],
    ]);
  });

  it('tells two requests in a row apart, also where no time is between them, and not what an answer is read by', () => {
    const url = 'http://localhost/api/crew';
    const sent = (startMs: number, durationMs: number): Row =>
      ({ kind: 'request', thread: 0, startMs, durationMs, url, initiator: 'fetch' }) as Row;
    const requestsOf = (...rows: Row[]) =>
      only(
        recordingOfChain(
          ...tap(100, 1),
          asked(106, 11, 1, { type: 'request', url }),
          sent(106, 300),
          ...rows,
        ),
      )!
        .steps.filter(({ name }) => name === 'request')
        .map(({ startMs, endMs }) => [startMs, endMs]);
    const again = [came(406, 0, 2, 11), asked(406, 12, 2, { type: 'request', url })];
    const shown = [came(700, 10, 3, 12), ...drawn(715, 3)];
    expect(requestsOf(...again, sent(407, 293), ...shown)).toEqual([
      [106, 406],
      [406, 700],
    ]);
    expect(requestsOf(...again, ...shown)).toEqual([[106, 700]]);
  });

  it('has steps that end with it, also where a coarse clock has the picture end before what wrote it began', () => {
    const recording = recordingOfChain(
      ...tap(100, 1),
      asked(105, 11, 1, { delayMs: 300 }),
      came(410, 0, 2, 11),
      ...drawn(409 - PICTURE_MS, 2),
    );
    const outcome = only(recording)!;
    expect(outcome.endMs).toBe(409);
    expect(outcome.steps.at(-1)!.endMs).toBe(409);
  });

  it('is not what others brought, nor what nobody could see or what is the same as before', () => {
    const chain = [...tap(100, 1), asked(105, 11, 1, { delayMs: 300 }), came(410, 5, 2, 11)];
    expect(only(recordingOfChain(...chain, ...drawn(420, 77)))).toBeUndefined();
    expect(only(recordingOfChain(...chain, ...drawn(420, 2, { inView: false })))).toBeUndefined();
    expect(only(recordingOfChain(...chain, ...drawn(420, 2, { changed: false })))).toBeUndefined();
    expect(only(recordingOfChain(...chain, ...drawn(420, 2)))).toBeDefined();
  });

  it('keeps two inputs apart whose consequences cross', () => {
    const recording = recordingOfChain(
      ...tap(100, 1, 'button “Later”'),
      ...tap(200, 2, 'button “Sooner”'),
      asked(105, 11, 1, { delayMs: 900 }),
      asked(205, 12, 2, { delayMs: 300 }),
      came(506, 4, 3, 12),
      ...drawn(512, 3),
      came(1006, 4, 4, 11),
      ...drawn(1012, 4),
    );
    expect(outcomesOf(recording).map(({ interaction, endMs }) => [interaction.target, endMs])).toEqual([
      ['button “Later”', 1016],
      ['button “Sooner”', 516],
    ]);
  });

  it('ends where the same is done again, and after twenty seconds', () => {
    const late = [asked(105, 11, 1, { delayMs: 5000 }), came(5106, 4, 3, 11), ...drawn(5112, 3)];
    expect(only(recordingOfChain(...tap(100, 1), ...late))?.endMs).toBe(5116);
    expect(only(recordingOfChain(...tap(100, 1), ...tap(3000, 2), ...late))).toBeUndefined();
    const tooLate = [asked(105, 11, 1, { delayMs: 21_000 }), came(21_106, 4, 3, 11), ...drawn(21_112, 3)];
    expect(only(recordingOfChain(...tap(100, 1), ...tooLate))).toBeUndefined();
  });

  it('takes what repeats for ever once, and what ends to its end', () => {
    const ticks = (count: number) =>
      Array.from({ length: count }, (_, at) => [
        came(305 + at * 200, 2, 20 + at, 11),
        ...drawn(310 + at * 200, 20 + at),
      ]).flat();
    const begins = [...tap(100, 1), asked(105, 11, 1, { type: 'interval', delayMs: 200 })];
    expect(only(recordingOfChain(...begins, ...ticks(10)))?.endMs).toBe(310 + 9 * 200 + PICTURE_MS);
    expect(only(recordingOfChain(...begins, ...ticks(140)))?.endMs).toBe(310 + PICTURE_MS);
  });

  it('is found in step with the number of inputs', () => {
    const count = 20_000;
    const inputs = Array.from(
      { length: count },
      (_, at) => tap(at * 30, at + 1, `item “Deckhand ${at}”`)[0]!,
    );
    const recording = recordingOf([...inputs, { kind: 'end', startMs: count * 30, reason: 'stopped' }]);
    const fromMs = performance.now();
    expect(interactionsOf(recording)).toHaveLength(count);
    const listedMs = performance.now() - fromMs;
    expect(outcomesOf(recording)).toEqual([]);
    // With a look through all inputs for each it is twenty times as long, and more.
    expect(performance.now() - fromMs).toBeLessThan(1000 + 10 * listedMs);
  });

  it('is the first picture of the page that it led to', () => {
    const state = (startMs: number, type: string, value: string): Row => ({
      kind: 'state',
      thread: 0,
      startMs,
      type,
      value,
    });
    const recording = recordingOfChain(
      ...tap(100, 1),
      state(110, 'load', 'began'),
      { kind: 'request', thread: 0, startMs: 110, durationMs: 400, url: '/crew', initiator: 'navigation' },
      state(520, 'leave', ''),
      state(540, 'route', 'http://localhost/crew'),
      state(700, 'paint', 'first-paint'),
      state(720, 'paint', 'first-contentful-paint'),
      state(900, 'paint', 'largest-contentful-paint'),
    );
    const outcome = only(recording)!;
    expect([outcome.endMs, outcome.page?.path]).toEqual([720, '/crew']);
    expect(outcome.steps.map(({ name, endMs }) => [name, endMs])).toEqual([
      ['waiting', 102],
      ['handling', 110],
      ['request', 510],
      ['loading', 720],
    ]);
  });
});

describe('a slow outcome', () => {
  const request = (startMs: number, durationMs: number, url: string): Row => ({
    kind: 'request',
    thread: 0,
    startMs,
    durationMs,
    url,
    initiator: 'fetch',
  });
  const [crew, shifts] = ['http://localhost/api/crew', 'http://localhost/api/shifts'];
  const recording = recordingOfChain(
    ...tap(100, 1),
    asked(104, 11, 1, { type: 'request', url: crew }),
    request(105, 500, crew),
    came(606, 1, 2, 11),
    asked(607, 12, 2, { type: 'request', url: shifts }),
    request(607, 700, shifts),
    came(1308, 200, 3, 12),
    { kind: 'task', thread: 0, startMs: 1308, durationMs: 201, source: 'longtask' },
    ...drawn(1512, 3),
  );
  const stings = findStings(recording, DEFAULT_THRESHOLDS);
  const slow = stings.find(({ kind }) => kind === 'slow-outcome')!;

  it('is a sting where it is beyond its budget, with phases that sum to it, and a sentence of its parts', () => {
    expect(slow).toMatchObject({ feltMs: 1416, budgetMs: 1000, label: 'Tap button “Crew roster”' });
    const anatomy = anatomyOf(recording, slow);
    expect(anatomy.phases.reduce((sum, { startMs, endMs }) => sum + endMs - startMs, 0)).toBe(1416);
    expect(becauseText(becauseOf(recording, anatomy))).toBe(
      'The last change on the screen, in list “Crew”, came 1,416 ms after the tap on button “Crew roster”, over the budget of 1000 ms: 700 ms for api/shifts, 501 ms for api/crew, 203 ms handling.',
    );
    const lenient = findStings(recording, { ...DEFAULT_THRESHOLDS, outcomeMs: 1500 });
    expect(lenient.some(({ kind }) => kind === 'slow-outcome')).toBe(false);
  });

  it('has all its phases in the table of stings', () => {
    const [heading, ...lines] = [...tableAsCsv(recording, 'stings')];
    const columns = heading!.split(',');
    const cells = lines.find((line) => line.startsWith('slow-outcome'))!.split(',');
    const of = (name: string) => Number(cells[columns.indexOf(name)]);
    const phases = columns.slice(columns.indexOf('waitingMs'), columns.indexOf('because'));
    expect(of('requestMs')).toBe(1201);
    expect(phases.reduce((sum, name) => sum + of(name), 0)).toBe(1416);
  });

  it('has what is part of it say which input began it', () => {
    const part = stings.find(({ kind }) => kind === 'long-task')!;
    expect(part.label).toMatch(/^Tap button “Crew roster”, then /);
  });

  it('is advised to ask together what was asked one after the other', () => {
    const [advice] = suggestionsFor(recording, anatomyOf(recording, slow)).filter(
      ({ kind }) => kind === 'ask-together',
    );
    expect(advice!.savesMs).toBe(501);
    expect(becauseText(advice!.evidence)).toBe(
      'api/crew for 501 ms, then api/shifts for 700 ms, each sent after the answer to the one before.',
    );
  });
});

describe('outcomes held against each other', () => {
  /** Taps whose list is there after so long; 0 where it is there with the answer. */
  const taps = (...listMs: number[]) =>
    recordingOfChain(
      ...listMs.flatMap((ms, at) => {
        const [startMs, id] = [100 + at * 3000, 10 * at + 1];
        const begun = tap(startMs, id);
        if (ms === 0) return begun;
        return [
          ...begun,
          asked(startMs + 5, 1000 + id, id, { delayMs: ms }),
          came(startMs + 5 + ms, 5, id + 1, 1000 + id),
          ...drawn(startMs + 12 + ms, id + 1),
        ];
      }),
    );

  it('are a series beside the answers, in which an answer that was all of it counts', () => {
    const [before, after] = [taps(900, 920, 910, 930, 905, 925), taps(0, 0, 0, 0, 0, 0)];
    const series = compareSeries(before, after, DEFAULT_THRESHOLDS);
    const outcome = series.find(({ label }) => label === 'Tap button “Crew roster”, to its outcome')!;
    expect(outcome).toMatchObject({ verdict: 'faster', before: { count: 6 }, after: { count: 6 } });
    expect(outcome.after!.medianMs).toBe(24);
    const answer = series.find(({ label }) => label === 'Tap button “Crew roster”')!;
    expect(answer.verdict).toBe('no-clear-change');
    expect(compareSeries(after, after, DEFAULT_THRESHOLDS)).toHaveLength(1);
  });

  it('have a budget of their own', () => {
    const budget = budgetSchema.validateSync({ outcomes: [{ label: '*', ms: 500 }] });
    expect(checkBudget(taps(900), budget)).toMatchObject([
      { what: 'Outcome of: Tap button “Crew roster”', found: 916, allowed: 500, kept: false },
    ]);
    expect(checkBudget(taps(0), budget)).toMatchObject([{ found: 24, kept: true }]);
  });
});
