import { packSamples, type Row } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { LiveSummary } from './live-summary';

const input = (type: string, startMs: number, durationMs: number, more: object = {}): Row => ({
  kind: 'input',
  thread: 0,
  startMs,
  durationMs,
  type,
  target: 'button “Board all”',
  ...more,
});

describe('the live summary', () => {
  it('lists one line an interaction, newest first, with its longest delay', () => {
    const summary = new LiveSummary();
    summary.take(input('pointerdown', 100, 24, { interaction: 4 }));
    summary.take(input('click', 160, 408, { interaction: 4 }));
    summary.take(input('mouseover', 90, 408));
    summary.take(input('click', 900, 0, { belowMs: 16 }));
    expect(summary.inputs()).toEqual([
      { startMs: 900, label: 'Tap button “Board all”', feltMs: 16, measured: false },
      { startMs: 100, label: 'Tap button “Board all”', feltMs: 408, measured: true },
    ]);
  });

  it('reckons the busy share of each quarter of a second, never more than all of it', () => {
    const summary = new LiveSummary();
    const timesUs = Array.from({ length: 100 }, (_, index) => index * 10_000);
    const stacks = timesUs.map((timeUs) => (timeUs >= 250_000 && timeUs < 500_000 ? 0 : -1));
    summary.take({ kind: 'samples', ...packSamples(0, 10, { timesUs, stacks }) });
    summary.take({ kind: 'task', thread: 0, startMs: 260, durationMs: 200, source: 'longtask' });
    summary.take({ kind: 'end', startMs: 1000, reason: 'stopped' });
    expect(summary.history()).toEqual([0, 1, 0, 0]);
    expect(summary.busyShare()).toBe(0.25);
  });

  it("reckons the recorder's own cost", () => {
    const summary = new LiveSummary();
    summary.take({ kind: 'cost', thread: 0, startMs: 0, durationMs: 1000, busyMs: 5, longestMs: 1 });
    summary.take({ kind: 'cost', thread: 0, startMs: 1000, durationMs: 1000, busyMs: 15, longestMs: 1 });
    expect(summary.costShare).toBeCloseTo(0.01);
  });
});
