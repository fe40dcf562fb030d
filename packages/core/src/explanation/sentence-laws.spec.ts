import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { packSamples } from '../format/packed-samples';
import type { Row } from '../format/rows';
import { findStings } from '../detectors/index';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { arbitraryRecording, deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { deskTap, end } from '../testing/desk-rows';
import { anatomyOf } from './anatomy';
import { becauseOf } from '../detectors/because';
import { becauseText } from './sentence';

/** Figures are said to the millisecond, and those that end with a picture to the step of Event Timing. */
const ROUNDED_MS = 9;

const figures = (sentence: string, pattern: RegExp) =>
  [...sentence.matchAll(pattern)].map(([, figure]) => Number(figure!.replaceAll(',', '')));

describe('the sentence', () => {
  it('never contradicts the breakdown beside it', () => {
    fc.assert(
      fc.property(arbitraryRecording, (recording) => {
        for (const sting of findStings(recording, DEFAULT_THRESHOLDS)) {
          if (sting.detail !== undefined) continue;
          const anatomy = anatomyOf(recording, sting);
          const sentence = becauseText(becauseOf(recording, anatomy));
          const { blame, phases } = anatomy;
          const scriptMs = blame.scriptOwnMs + blame.scriptLibraryMs;
          const busyMs = blame.totalMs - blame.idleMs;
          for (const ranMs of figures(sentence, /ran for ([\d,.]+) ms/g))
            expect(ranMs).toBeLessThanOrEqual(busyMs + ROUNDED_MS);
          const drawing = phases.find(({ name }) => name === 'drawing')!;
          const drawingMs = drawing.endMs - drawing.startMs;
          const scripted = drawing.blame.scriptOwnMs + drawing.blame.scriptLibraryMs;
          for (const drewMs of figures(sentence, /Drawing took (?:about )?([\d,.]+) ms/g))
            expect(drewMs).toBeLessThanOrEqual(
              drawingMs - scripted - drawing.blame.idleMs - drawing.blame.unexplainedMs + ROUNDED_MS,
            );
          for (const unexplainedMs of figures(sentence, /Of all this, ([\d,.]+) ms/g))
            expect(Math.abs(unexplainedMs - blame.unexplainedMs)).toBeLessThanOrEqual(1);
          for (const unseen of figures(sentence, /For ([\d,.]+) ms of script/g))
            expect(unseen).toBeLessThanOrEqual(scriptMs + 1);
          expect(sentence).not.toMatch(/\. Then (?!.* (ran|took))/);
        }
      }),
    );
  });
});

const FRAMEWORK: Row[] = [
  { kind: 'source', id: 0, url: 'http://localhost:4781/src/desk.js' },
  { kind: 'source', id: 1, url: 'http://localhost:4781/node_modules/.vite/deps/weft-dom_client.js' },
  { kind: 'function', id: 0, name: 'dispatchDiscreteEvent', source: 1, owner: 'library' },
  { kind: 'function', id: 1, name: 'onFilter', source: 0 },
  { kind: 'function', id: 2, name: 'applyRules', source: 0 },
  { kind: 'function', id: 3, name: 'toKey', source: 0 },
  { kind: 'function', id: 4, name: '0', source: 0 },
  { kind: 'function', id: 5, name: 'commitRoot', source: 1, owner: 'library' },
  { kind: 'function', id: 6, name: 'renderManifest', source: 0 },
  { kind: 'stack', id: 0, function: 0 },
  { kind: 'stack', id: 1, function: 1, parent: 0 },
  { kind: 'stack', id: 2, function: 2, parent: 1 },
  { kind: 'stack', id: 3, function: 3, parent: 1 },
  { kind: 'stack', id: 4, function: 4 },
  { kind: 'stack', id: 5, function: 5 },
  { kind: 'stack', id: 6, function: 6, parent: 5 },
];
const handler = (startMs: number, durationMs: number, more: object = {}): Row => ({
  kind: 'handler',
  thread: 0,
  startMs,
  durationMs,
  type: 'event-listener',
  invoker: 'DIV#root.onclick',
  ...more,
});
const samples = (...runs: [fromMs: number, toMs: number, stack: number][]): Row => {
  const all = runs.flatMap(([fromMs, toMs, stack]) =>
    Array.from(
      { length: Math.round((toMs - fromMs) / 10) },
      (_, at) => [fromMs + 5 + at * 10, stack] as const,
    ),
  );
  const columns = { timesUs: all.map(([ms]) => ms * 1000), stacks: all.map(([, stack]) => stack) };
  return { kind: 'samples', ...packSamples(0, 10, columns) };
};
const tap = (startMs: number, durationMs: number, handling: [number, number]) =>
  deskTap(startMs, durationMs, {
    interaction: 1,
    target: 'button “Filter”',
    processingStartMs: handling[0],
    processingEndMs: handling[1],
  });
const say = (...rows: Row[]) => {
  const recording = recordingOf(
    [...FRAMEWORK, ...rows, end(5000)],
    deskHeader({ available: ['event', 'handlers'] }),
  );
  const [worst] = findStings(recording, DEFAULT_THRESHOLDS);
  const anatomy = anatomyOf(recording, worst!);
  const named = anatomy.culprits.map(({ functionId, savedMs }) => [
    recording.functions.get(functionId)!.name,
    Math.round(savedMs),
  ]);
  return { sentence: becauseText(becauseOf(recording, anatomy)), named };
};

describe('who is named', () => {
  it('is the own function with the most time, not the dispatcher around it nor a helper beside it', () => {
    const { sentence, named } = say(
      tap(1000, 304, [1000, 1300]),
      handler(1000, 300),
      samples([1000, 1060, 1], [1060, 1220, 2], [1220, 1300, 3]),
    );
    expect(sentence).toBe(
      'The screen answered the tap on button “Filter” after 304 ms, over the budget of 200 ms. onFilter ran for 300 ms: by samples about 53 % of it in applyRules.',
    );
    expect(named.map(([name]) => name)).toEqual(['applyRules', 'toKey', 'onFilter']);
  });

  it('would save up to all that it called too', () => {
    const { named } = say(
      tap(1000, 304, [1000, 1300]),
      handler(1000, 300),
      samples([1000, 1060, 1], [1060, 1220, 2], [1220, 1300, 3]),
    );
    expect(Object.fromEntries(named)).toEqual({ applyRules: 160, toKey: 80, onFilter: 300 });
  });

  it('is a library where no own function is on the stack, with what it did and who asked for it', () => {
    const { sentence, named } = say(
      tap(1000, 2304, [1000, 3300]),
      handler(1000, 2300),
      samples([1000, 1240, 1], [1240, 3240, 5], [3240, 3300, 6]),
      {
        kind: 'redraw',
        thread: 0,
        startMs: 3300,
        nodes: 3250,
        attributes: 0,
        texts: 0,
        changed: true,
        inView: true,
        target: 'list “Manifest rows”',
      },
    );
    expect(sentence).toBe(
      'The screen answered the tap on button “Filter” after 2,304 ms, nearly 12 times the budget of 200 ms. weft-dom ran for 2,000 ms with no own function on the stack, placing and removing 3,250 nodes in list “Manifest rows”; onFilter was the last own function to run before it. Of own code, onFilter ran for 240 ms, by samples about 100 % of it in its own code.',
    );
    expect(named[0]).toEqual(['onFilter', 2240]);
  });

  it('is the component that was rendered in a frame callback, and drawing is only what was drawn', () => {
    const { sentence } = say(
      tap(1000, 400, [1000, 1026]),
      handler(1000, 26, { function: 1 }),
      handler(1030, 256, { function: 6, type: 'user-callback', invoker: 'FrameRequestCallback' }),
      { kind: 'render', thread: 0, startMs: 1290, durationMs: 110, styleMs: 40, layoutMs: 40, paintMs: 30 },
    );
    expect(sentence).toBe(
      'The screen answered the tap on button “Filter” after 400 ms, twice the budget of 200 ms. onFilter ran for 26 ms; what it called was not seen. Before the picture, renderManifest ran for 256 ms; what it called was not seen. Drawing took about 112 ms. A recording in fine mode shows what it called.',
    );
  });

  it('is no library of which only the entry was seen', () => {
    const { sentence } = say(tap(1000, 304, [1000, 1300]), handler(1000, 300, { function: 0 }));
    expect(sentence).toBe(
      'The screen answered the tap on button “Filter” after 304 ms, over the budget of 200 ms. dispatchDiscreteEvent of weft-dom ran for 300 ms; what it called was not seen. A recording in fine mode shows what it called.',
    );
  });

  it('is a library too where it took nearly as long as own code', () => {
    const { sentence } = say(
      tap(1000, 404, [1000, 1400]),
      handler(1000, 400),
      samples([1000, 1240, 1], [1240, 1400, 5]),
    );
    expect(sentence).toContain(
      'onFilter ran for 240 ms, by samples about 100 % of it in its own code. Besides, weft-dom ran for 160 ms with no own function on the stack.',
    );
  });

  it('is nobody where style, layout and paint took it', () => {
    const { sentence } = say(
      { kind: 'task', thread: 0, startMs: 0, durationMs: 99, source: 'longtask' },
      { kind: 'render', thread: 0, startMs: 0, durationMs: 99, styleMs: 40, layoutMs: 40, paintMs: 19 },
    );
    expect(sentence).toContain('Handling took 99 ms, most of it style, layout and paint.');
  });

  it('is no library for the few nodes it placed', () => {
    const changed = { attributes: 0, texts: 0, changed: true, inView: true, target: 'list “Manifest rows”' };
    const { sentence } = say(tap(1000, 304, [1000, 1300]), handler(1000, 300), samples([1000, 1300, 5]), {
      kind: 'redraw',
      thread: 0,
      startMs: 1300,
      nodes: 18,
      ...changed,
    });
    expect(sentence).toContain('weft-dom ran for 300 ms with no own function on the stack.');
  });

  it('has not forced the layout that others forced', () => {
    const forced = { thread: 0, count: 3, styleMs: 0, read: 'offsetHeight', write: 'style' };
    const { sentence } = say(
      tap(1000, 404, [1000, 1400]),
      handler(1000, 300, { function: 1 }),
      handler(1300, 100, { function: 6 }),
      samples([1000, 1300, 1], [1300, 1400, 6]),
      { kind: 'forced', startMs: 1300, durationMs: 90, costMs: 90, layoutMs: 90, function: 6, ...forced },
    );
    expect(sentence).toContain(
      'onFilter ran for 300 ms, by samples about 100 % of it in its own code. It held 90 ms in layout forced 3 times by renderManifest.',
    );
  });

  it('is by its place where it has no name, with a capital letter where a sentence begins', () => {
    const { sentence } = say(
      {
        kind: 'function',
        id: 7,
        name: '',
        originalName: 'anonymous in Row',
        originalFile: 'src/rows.js',
        originalLine: 12,
        source: 0,
      },
      { kind: 'task', thread: 0, startMs: 0, durationMs: 90, source: 'longtask' },
      handler(0, 90, { function: 7 }),
    );
    expect(sentence).toContain('. An unnamed function in Row (src/rows.js:12) ran for 90 ms; what it called');
  });

  it('is an unnamed function where neither name nor place is known, and what it called is no part of it', () => {
    const { sentence } = say(
      { kind: 'function', id: 7, name: '', source: undefined, owner: 'own' } as unknown as Row,
      { kind: 'task', thread: 0, startMs: 0, durationMs: 90, source: 'longtask' },
      handler(0, 90, { function: 7 }),
      {
        kind: 'forced',
        thread: 0,
        startMs: 20,
        durationMs: 30,
        count: 1,
        costMs: 30,
        styleMs: 0,
        layoutMs: 30,
        read: 'offsetTop',
      },
    );
    expect(sentence).toContain(
      '. An unnamed function ran for 90 ms; what it called was not seen. It held 30 ms in layout forced once from script. A recording in fine mode shows what it called.',
    );
  });

  it('was not sampled where only entries into script are known', () => {
    const frames = Array.from({ length: 8 }, (_, at) => at * 100).flatMap((startMs): Row[] => [
      handler(startMs, 60, { function: 1, type: 'user-callback', invoker: 'FrameRequestCallback' }),
      {
        kind: 'render',
        thread: 0,
        startMs: startMs + 60,
        durationMs: 30,
        styleMs: 10,
        layoutMs: 10,
        paintMs: 10,
      },
    ]);
    expect(say(...frames).sentence).toContain(
      'Of the busy time 67 % went to onFilter and what it called, which was not seen.',
    );
  });

  it('goes without what `bind` put before its name', () => {
    const { sentence } = say(
      { kind: 'function', id: 7, name: 'bound onSail', source: 0 },
      { kind: 'task', thread: 0, startMs: 0, durationMs: 90, source: 'longtask' },
      handler(0, 90, { function: 7 }),
    );
    expect(sentence).toContain('. onSail ran for 90 ms');
  });

  it('has not drawn what is unexplained', () => {
    const { sentence } = say(
      { kind: 'task', thread: 0, startMs: 0, durationMs: 180, source: 'longtask' },
      { kind: 'frame', thread: 0, startMs: 0, durationMs: 130, renderStartMs: 50, styleStartMs: 80 },
    );
    expect(sentence).toContain('The picture came 130 ms later. Of all this, 130 ms are unexplained.');
  });

  it('is nobody where a name is only a number', () => {
    const { sentence } = say(
      { kind: 'task', thread: 0, startMs: 0, durationMs: 90, source: 'longtask' },
      samples([0, 90, 4]),
    );
    expect(sentence).toContain('Code in src/desk.js ran for');
  });
});
