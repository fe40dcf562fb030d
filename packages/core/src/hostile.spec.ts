import { describe, expect, it } from 'vitest';
import { callTree } from './calls/call-tree';
import { callersTree } from './calls/callers-tree';
import { flameLayout } from './calls/flame-layout';
import { functionTable } from './calls/function-table';
import { WIDE_LENS } from './calls/lens';
import { fileCosts } from './calls/line-costs';
import { compareRecordings } from './compare/compare';
import { flameDifference } from './compare/flame-difference';
import { flameSvg } from './export/flame-svg';
import { foldedStacks } from './export/folded';
import { selfProfile } from './export/self-profile';
import { RecordingDecoder } from './format/decoder';
import { MAX_RECORDING_BYTES, MAX_UNKNOWN_LINES } from './format/limits';
import { CALL_END, packCalls } from './format/packed-calls';
import { NO_STACK, packSamples } from './format/packed-samples';
import type { Row } from './format/rows';
import { interactionsOf } from './inputs/interactions';
import { skylineOf } from './overview/skyline';
import { RecordingBuilder } from './recording/builder';
import type { Recording } from './recording/recording';
import { explainReport } from './report/explain-report';
import { findStings } from './detectors/index';
import { seriesOf } from './stings/series';
import { DEFAULT_THRESHOLDS } from './format/thresholds';
import { deskHeader, recordingOf } from './testing/arbitrary-recording';
import { deskFunctions, deskRun, deskTap, end, picture } from './testing/desk-rows';
import { lanesOf } from './timeline/timeline';

/** Asks of a recording what the views, the reports and the exports ask. */
function askAll(recording: Recording): void {
  const stings = findStings(recording, DEFAULT_THRESHOLDS);
  seriesOf(stings, interactionsOf(recording));
  explainReport(recording, DEFAULT_THRESHOLDS);
  for (const lens of [WIDE_LENS, { ...WIDE_LENS, foldLibraries: true, foldRecursion: true }]) {
    functionTable(recording, lens);
    const tree = callTree(recording, lens);
    flameLayout(recording, tree, 'weight', 1 / 2400);
    callersTree(recording, lens).roots();
  }
  fileCosts(recording, WIDE_LENS);
  skylineOf(recording, 600);
  for (const lane of lanesOf(recording)) lane.draw(recording.range, 800);
  flameDifference(recording, recording, 1 / 2400);
  compareRecordings(recording, recording);
  flameSvg(recording);
  for (const line of foldedStacks(recording)) if (line.length > 1e9) throw new Error('a line too long');
  selfProfile(recording, 0);
}

const HANDLERS = deskHeader({ available: ['event', 'handlers'] });

/** A slow machine must come to an end too, and a test that never does is to fail. */
const PATIENCE = { timeout: 180_000 };

describe('a recording that nobody would make ends with an answer:', PATIENCE, () => {
  it('one that is said to end in 28 years', () => {
    const rows: Row[] = [
      ...deskFunctions('weigh'),
      deskRun(100, 80),
      deskTap(90, 240),
      end(28 * 365 * 86_400_000),
    ];
    askAll(recordingOf(rows, HANDLERS));
  });

  it('stacks of samples that are 10,000 deep', () => {
    const depth = 10_000;
    const stacks = Array.from({ length: depth }, (_, id): Row => ({
      kind: 'stack',
      id,
      function: id % 2,
      ...(id === 0 ? {} : { parent: id - 1 }),
    }));
    const times = Array.from({ length: 60 }, (_, at) => (at + 1) * 10_000);
    const columns = { timesUs: times, stacks: times.map((_, at) => (at % 7 === 6 ? -1 : depth - 1 - at)) };
    const samples: Row = { kind: 'samples', ...packSamples(0, 10, columns) };
    askAll(
      recordingOf(
        [...deskFunctions('weigh', 'stow'), ...stacks, deskRun(0, 600), samples, end(700)],
        HANDLERS,
      ),
    );
  });

  it('exact calls that are 60,000 deep', () => {
    const depth = 60_000;
    const timesUs = Array.from({ length: 2 * depth }, (_, at) => at * 10);
    const functions = timesUs.map((_, at) => (at < depth ? at % 2 : CALL_END));
    const calls: Row = { kind: 'calls', ...packCalls(0, { timesUs, functions }) };
    askAll(recordingOf([...deskFunctions('weigh', 'stow'), calls, end(2000)], HANDLERS));
  });

  it('two hours of late frames', () => {
    const frames = Array.from({ length: 144_000 }, (_, at): Row[] => [
      deskRun(at * 50, 40),
      picture(at * 50 + 41, 8),
    ]).flat();
    askAll(recordingOf([...deskFunctions('draw'), ...frames, end(7_200_000)], HANDLERS));
  });

  it('40,000 stings, and one entry into script that lasts as long as all of them', () => {
    const taps = Array.from({ length: 40_000 }, (_, at): Row[] => [
      deskTap(at * 400, 320),
      deskRun(at * 400 + 2, 300, 0, { type: 'event-listener', invoker: 'BUTTON' }),
    ]).flat();
    const long = deskRun(0, 16_000_000, 1);
    askAll(recordingOf([...deskFunctions('weigh', 'stow'), long, ...taps, end(16_000_000)], HANDLERS));
  });
});

describe('a stream without end', PATIENCE, () => {
  const line = (text: string) => new TextEncoder().encode(`${text}\n`);

  it('is read up to a bound, which is said', () => {
    const builder = new RecordingBuilder();
    const decoder = new RecordingDecoder(builder);
    decoder.push(line(JSON.stringify(deskHeader())));
    const filler = line(
      `{"kind":"task","thread":0,"startMs":1,"durationMs":2,"source":"${'x'.repeat(30_000_000)}"}`,
    );
    let pushed = 0;
    while (!decoder.isFull) {
      decoder.push(filler);
      if (++pushed > 100) throw new Error('it is never full');
    }
    expect(pushed * filler.length).toBeLessThan(MAX_RECORDING_BYTES + 2 * filler.length);
    decoder.push(filler);
    expect(decoder.finish().map(({ code }) => code)).toContain('too-large');
  });

  it.each(['', '[', '{"kind":"tide"}'])('of lines that say nothing (%s) is left where it is', (text) => {
    const decoder = new RecordingDecoder(new RecordingBuilder());
    decoder.push(line(JSON.stringify(deskHeader())));
    const many = line(Array(10_000).fill(text).join('\n'));
    let pushed = 0;
    while (!decoder.isFull) {
      decoder.push(many);
      if (++pushed > 200) throw new Error('it is never full');
    }
    const notice = decoder.finish().find(({ code }) => code === 'too-large');
    expect(notice?.detail).toBe(
      'more than 1,000,000 of its lines say nothing that can be read; the rest was left out',
    );
  });

  it('of calls and samples, of which a small file may hold very many, keeps as many as memory holds', () => {
    const builder = new RecordingBuilder({ calls: 2000, samples: 3000 });
    const decoder = new RecordingDecoder(builder);
    const times = Array.from({ length: 1000 }, (_, at) => at);
    const calls = packCalls(0, { timesUs: times, functions: times.map((at) => (at % 2 ? CALL_END : 0)) });
    const samples = packSamples(0, 10, { timesUs: times, stacks: times.map(() => NO_STACK) });
    for (const row of [deskHeader(), ...deskFunctions('stow')]) decoder.push(line(JSON.stringify(row)));
    for (let at = 0; at < 10; at++) {
      decoder.push(line(JSON.stringify({ kind: 'calls', ...calls })));
      decoder.push(line(JSON.stringify({ kind: 'samples', ...samples })));
    }
    const notices = decoder.finish().map(({ detail }) => detail);
    expect(notices).toContain(
      'in a "calls" row, there are more than 2,000 calls, which is as many as are read of one recording',
    );
    const { calls: kept, samples: sampled } = builder.build();
    expect(kept.get(0)!.length).toBe(2000);
    expect(sampled.get(0)!.length).toBe(3000);
  });

  it('of kinds nobody knows keeps some of them, and says how many', () => {
    const builder = new RecordingBuilder();
    const decoder = new RecordingDecoder(builder);
    decoder.push(line(JSON.stringify(deskHeader())));
    const unknown = line('{"kind":"tide","heightM":3}');
    for (let at = 0; at < MAX_UNKNOWN_LINES + 50; at++) decoder.push(unknown);
    const notices = decoder.finish();
    expect(builder.build().unknownLines).toHaveLength(MAX_UNKNOWN_LINES);
    expect(notices.filter(({ code }) => code === 'dropped').at(-1)!.detail).toBe('45 more of this kind');
  });
});
