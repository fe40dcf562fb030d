import { RecordingDecoder, RecordingBuilder, findStings, thresholdsOf, compared } from '@nettle-patch/core';
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { gunzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { coreLens, USUAL_LENS } from '../../../app/lens/lens-state';
import { SearchQueries } from './search-queries';
import { SourceQueries } from './source-queries';
import { stingsOfFunctions } from '../stings-of-functions';
import { ITEM_COLUMNS, type ItemOrder } from './item-order';
import { TimelineQueries } from './timeline-queries';

/** The demo recording as the worker reads it. */
function demo() {
  const path = fileURLToPath(
    new URL('../../../../public/demo/friday-sailing.nettle.jsonl.gz', import.meta.url),
  );
  const builder = new RecordingBuilder();
  const decoder = new RecordingDecoder(builder);
  decoder.push(gunzipSync(readFileSync(path)));
  decoder.finish();
  const recording = builder.build();
  return { recording, stings: findStings(recording, thresholdsOf(recording.header)) };
}
const { recording, stings } = demo();
const LENS = coreLens(USUAL_LENS);

describe('the time view asks, and', () => {
  const desk = new TimelineQueries(recording, stings);
  const linesOf = (lane: string, range = recording.range, column: ItemOrder['column'] = 'lengthMs') =>
    desk.lines(lane, range, { column, isDescending: column === 'lengthMs' }).lines;

  it('the things of a lane are put in order before they are cut', () => {
    for (const column of ITEM_COLUMNS) {
      const values = linesOf('thread 0', recording.range, column).map((line) => line[column]);
      const sorted = [...values].sort(compared);
      expect(values, column).toEqual(column === 'lengthMs' ? sorted.reverse() : sorted);
      expect(values).toHaveLength(300);
    }
    const whole = desk.lines('thread 0', recording.range, { column: 'startMs', isDescending: true });
    expect(whole.cut).toBeGreaterThan(100);
    expect(whole.lines[0]!.startMs).toBeGreaterThan(whole.lines.at(-1)!.startMs);
  });

  it('every item of every lane can be told of', () => {
    for (const lane of desk.lanes()) {
      for (const { ref } of linesOf(lane.id).slice(0, 20)) {
        const told = desk.details(lane.id, ref)!;
        expect(told.title, `${lane.id} ${ref}`).not.toBe('');
        expect(told.endMs).toBeGreaterThanOrEqual(told.startMs);
        for (const { label, text } of told.facts)
          expect(`${label}${text}`).not.toMatch(/NaN|undefined|Infinity/);
      }
    }
  });

  it('a tap is told with its phases, its budget and the sting it is', () => {
    const line = linesOf('inputs').find(({ words }) => words.includes('Board all'))!;
    const told = desk.details('inputs', line.ref)!;
    expect(told.facts.find(({ label }) => label === 'felt')).toMatchObject({ over: true });
    expect(told.facts.map(({ label }) => label)).toEqual(
      expect.arrayContaining(['waiting', 'handling', 'drawing']),
    );
    expect(stings[told.sting!]!.label).toBe(told.title);
  });

  it('a call is told with its callers and all its other calls', () => {
    const line = linesOf('thread 0').find(({ words }) => words === 'makeRoomOneByOne')!;
    const told = desk.details('thread 0', line.ref)!;
    expect(told.callers.map(({ name }) => name)).toContain('onDragMove');
    expect(told.place).toMatch(/deck\/drag\.ts:\d+$/);
    expect(told.others!.count).toBeGreaterThan(3);
    expect(told.others!.longestMs).toBeGreaterThanOrEqual(told.others!.medianMs);
  });

  it('an empty stretch says what the thread waited for', () => {
    const { startMs: from } = recording.range;
    const busy = linesOf('thread 0', { startMs: from, endMs: from + 500 }, 'startMs').filter(
      ({ row }) => row === 0,
    );
    const gap = busy.find(({ startMs, lengthMs }, at) => {
      const next = busy[at + 1];
      return next !== undefined && next.startMs - startMs - lengthMs > 4;
    })!;
    const told = desk.at('thread 0', gap.startMs + gap.lengthMs + 1, 0, 0)!;
    expect(told).toMatchObject({ what: 'Idle', ref: undefined });
    expect(told.facts.map(({ label }) => label)).toContain('waited for');
  });

  it('nothing is told of what is not there', () => {
    expect(desk.at('inputs', 1e7, 0, 0)).toBeUndefined();
    expect(desk.at('no such lane', 0, 0, 0)).toBeUndefined();
    expect(linesOf('no such lane')).toEqual([]);
  });

  it('a window holds just the lanes that are shown', () => {
    const { lanes } = desk.draw(recording.range, 500, ['inputs', 'memory']);
    expect(lanes.map(({ id }) => id)).toEqual(['inputs', 'memory']);
  });
});

describe('the source view asks, and', () => {
  it('files come the dearest first, with their text', () => {
    const files = new SourceQueries(recording).files(LENS);
    const costs = files.map(({ selfMs }) => selfMs);
    expect(costs).toEqual([...costs].sort((a, b) => b - a));
    expect(files.find(({ file }) => file.endsWith('deck/trim.ts'))).toMatchObject({
      owner: 'own',
      hasText: true,
    });
  });

  it('a line that forces layout is flagged in the text of its file', () => {
    const { text, lines } = new SourceQueries(recording).file(LENS, 'src/desk/deck/drag.ts');
    const forcing = lines.find(({ forcedCount }) => forcedCount > 100)!;
    expect(text!.split('\n')[forcing.line - 1]).toContain('offsetLeft');
  });

  it('a function is found in its file, and its text can be supplied', () => {
    const desk = new SourceQueries(recording);
    const [id] = [...recording.functions].find(([, { originalName }]) => originalName === 'bendingOfPair')!;
    expect(desk.locationOf(id)).toMatchObject({ file: 'src/desk/deck/trim.ts' });
    expect(desk.file(LENS, 'src/gone.ts')).toMatchObject({ text: undefined, lines: [] });
    expect(desk.file(LENS, 'src/gone.ts').problem).toContain('does not carry');
    desk.supply('src/gone.ts', 'let gone;');
    expect(desk.file(LENS, 'src/gone.ts').text).toBe('let gone;');
  });
});

describe('the focus on a function', () => {
  it('leaves the stings during which it ran', () => {
    const [id] = [...recording.functions].find(
      ([, { originalName, sameAs, place }]) =>
        originalName === 'makeRoomOneByOne' && sameAs === undefined && place !== true,
    )!;
    const labels = stingsOfFunctions(recording, stings, [id]).map((place) => stings[place]!.label);
    expect(labels).toContain('Listener onDragMove');
    expect(labels).not.toContain('Tap button “Board all”');
    expect(stingsOfFunctions(recording, stings, [1e9])).toEqual([]);
  });
});

describe('the search', () => {
  const desk = new SearchQueries(recording, stings);

  it('finds each kind of item by a part of its name', () => {
    const typesOf = (text: string) => new Set(desk.find(text).map(({ type }) => type));
    expect(typesOf('board all')).toEqual(new Set(['sting', 'input']));
    expect(typesOf('FOLDACC')).toContain('function');
    expect(typesOf('api/departures')).toContain('request');
  });

  it('finds nothing for nothing, and no more of a kind than can be read', () => {
    expect(desk.find('   ')).toEqual([]);
    expect(desk.find('zzz not there')).toEqual([]);
    const functions = desk.find('e').filter(({ type }) => type === 'function');
    expect(functions.length).toBeLessThanOrEqual(12);
  });
});
