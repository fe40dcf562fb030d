import type { InteractionRow } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { ladderHeight, ladderLines, linesIn } from './ladder-layout';

const row = (label: string, feltMs: number, measured = true): InteractionRow => ({
  interaction: 0,
  label,
  startMs: 0,
  feltMs,
  measured,
});
const RUNGS = [row('tap Board all', 412), row('tap Board all', 380), row('tap Lane 3', 16, false)];

describe('the ladder', () => {
  const lines = ladderLines(RUNGS, 200);

  it('has a head for each label and a line for each time', () => {
    expect(lines.map((line) => (line.type === 'head' ? line.label : line.place))).toEqual([
      'tap Board all',
      0,
      1,
      'tap Lane 3',
      2,
    ]);
  });

  it('stacks its lines without gap', () => {
    lines.slice(1).forEach((line, at) => expect(line.top).toBe(lines[at]!.top + lines[at]!.height));
    expect(ladderHeight(lines)).toBe(lines.at(-1)!.top + lines.at(-1)!.height);
    expect(ladderHeight([])).toBe(0);
  });

  it('says how often, how long, and how many were over the budget', () => {
    const abouts = lines.flatMap((line) => (line.type === 'head' ? line.about : []));
    expect(abouts[0]).toBe('2 times, median 396 ms, worst 412 ms, 2 over the budget of 200 ms');
    expect(abouts[1]).toBe('once, all too short to be measured');
  });

  it('knows which of them are seen', () => {
    expect(linesIn(lines, 0, 1)).toEqual([lines[0]]);
    expect(linesIn(lines, lines[1]!.top, lines[1]!.height)).toEqual([lines[1]]);
  });
});
