import { CALL_END, RecordingBuilder, packCalls, type Lens, type Row } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { coreLens, readLens } from '../../../app/lens/lens-state';
import { CallQueries } from './call-queries';

const HEADER = {
  kind: 'header' as const,
  format: 'nettle-patch' as const,
  version: '1.0',
  id: 'friday',
  startedAt: '2026-11-20T12:40:00.000Z',
  title: 'Boarding desk',
  mode: 'exact' as const,
  startUp: false,
  clockStepMs: 0.1,
  refreshMs: 16.7,
  target: { title: 'Boarding desk', url: 'http://localhost:4781/', engine: 'Blink 156', device: 'computer' },
  available: [],
  missing: [],
};

/** onBoardAll 0–100 ms calls stow 10–40 and 50–80, each of which calls weigh for 10 ms. */
function desk(): CallQueries {
  const builder = new RecordingBuilder();
  builder.header(HEADER);
  const rows: Row[] = [
    { kind: 'source', id: 0, url: 'http://localhost:4781/desk.js' },
    ...['onBoardAll', 'stow', 'weigh'].map((name, id): Row => ({
      kind: 'function',
      id,
      name,
      source: 0,
      line: id + 1,
    })),
    {
      kind: 'calls',
      ...packCalls(0, {
        timesUs: [0, 10, 20, 30, 40, 50, 60, 70, 80, 100].map((ms) => ms * 1000),
        functions: [0, 1, 2, CALL_END, CALL_END, 1, 2, CALL_END, CALL_END, CALL_END],
      }),
    },
  ];
  for (const row of rows) expect(builder.row(row)).toBeUndefined();
  return new CallQueries(builder.build());
}

const LENS: Lens = coreLens(readLens({}));
const NONE = new Set<string>();
const shown = (rows: readonly { depth: number; name: string }[]) =>
  rows.map(({ depth, name }) => `${'>'.repeat(depth)}${name}`);

const USUAL = { column: 'totalMs', isDescending: true } as const;

describe('the calls of a recording', () => {
  it('are shown from the top, opened step by step', () => {
    const calls = desk();
    const closed = calls.page(LENS, 'top', NONE, '', USUAL);
    expect(shown(closed.rows)).toEqual(['onBoardAll']);
    const opened = calls.page(LENS, 'top', new Set([closed.rows[0]!.key]), '', USUAL);
    expect(shown(opened.rows)).toEqual(['onBoardAll', '>stow']);
    expect(opened.rows[1]).toMatchObject({
      totalMs: 60,
      selfMs: 40,
      count: 2,
      hasChildren: true,
      isOpen: false,
    });
  });

  it('are shown from the bottom, with who called', () => {
    const calls = desk();
    const closed = calls.page(LENS, 'bottom', NONE, '', USUAL);
    expect(closed.rows.map(({ name, selfMs }) => [name, selfMs])).toEqual([
      ['onBoardAll', 40],
      ['stow', 40],
      ['weigh', 20],
    ]);
    const opened = calls.page(LENS, 'bottom', new Set([closed.rows[2]!.key]), '', USUAL);
    expect(shown(opened.rows)).toEqual(['onBoardAll', 'stow', 'weigh', '>stow']);
  });

  it('are searched: what leads to a hit is opened, and the share of the hits is told', () => {
    const { rows, hitShare } = desk().page(LENS, 'top', NONE, 'WEI', USUAL);
    expect(rows.map(({ name, isHit }) => [name, isHit])).toEqual([
      ['onBoardAll', false],
      ['stow', false],
      ['weigh', true],
    ]);
    expect(hitShare).toBeCloseTo(0.2);
    expect(shown(desk().page(LENS, 'flat', NONE, 'stow', USUAL).rows)).toEqual(['stow']);
  });

  it('are put in order before the last are cut off', () => {
    const byName = { column: 'name', isDescending: false } as const;
    expect(
      desk()
        .page(LENS, 'flat', NONE, '', byName)
        .rows.map(({ name }) => name),
    ).toEqual(['onBoardAll', 'stow', 'weigh']);
    const least = { column: 'selfMs', isDescending: false } as const;
    expect(desk().page(LENS, 'flat', NONE, '', least).rows[0]!.name).toBe('weigh');
    expect(desk().page(LENS, 'flat', NONE, '', least).isCounted).toBe(true);
  });

  it('have details of each function: how often, how long, by whom', () => {
    const { statistics, histogram, rate, callers, callees, exact } = desk().details(LENS, 1);
    expect(exact).toBe(true);
    expect(statistics).toMatchObject({ count: 2, medianMs: 30 });
    expect(histogram.counts.reduce((a, b) => a + b, 0)).toBe(2);
    expect(rate.counts.reduce((a, b) => a + b, 0)).toBe(2);
    expect(callers.map(({ name }) => name)).toEqual(['onBoardAll']);
    expect(callees.map(({ name, totalMs }) => [name, totalMs])).toEqual([['weigh', 20]]);
  });

  it('fill a flame graph', () => {
    const { boxes } = desk().flame(LENS, 'weight', 0.001, undefined, 'weigh');
    expect(
      boxes.map(({ name, width, depth, isHit }) => [name, Math.round(width * 100), depth, isHit]),
    ).toEqual([
      ['onBoardAll', 100, 0, false],
      ['stow', 60, 1, false],
      ['weigh', 20, 2, true],
    ]);
  });
});
