import {
  DEFAULT_THRESHOLDS,
  anatomyOf,
  becauseOf,
  countedCalls,
  displayName,
  findStings,
  lanesOf,
  PHONE_FAULT_NAMES,
  readRecording,
  type PhoneFault,
  type Recording,
} from '@nettle-patch/core';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Phone } from './phone';

const HEADER = {
  kind: 'header',
  format: 'nettle-patch',
  version: '1.1',
  id: 'deckhand',
  startedAt: '2026-11-20T12:40:00.000Z',
  title: 'Deckhand',
  mode: 'everyday',
  startUp: false,
  clockStepMs: 0.001,
  refreshMs: 1000 / 60,
  target: { title: 'Deckhand', url: 'app://deckhand', engine: 'Deckhand 3', device: 'phone' },
  available: ['event'],
  missing: [],
};

function record(mended: readonly PhoneFault[], seed = 7, hz: 60 | 120 = 60): Recording {
  const phone = new Phone({ seed, hz, mended: new Set(mended) });
  const rows = [
    { ...HEADER, refreshMs: 1000 / hz },
    ...phone.until(18_500),
    { kind: 'end', startMs: 18_500, reason: 'stopped' },
  ];
  const lines = rows.map((row) => `${JSON.stringify(row)}\n`).join('');
  const { recording, notices } = readRecording([new TextEncoder().encode(lines)]);
  expect(notices).toEqual([]);
  return recording;
}

const labels = (recording: Recording) =>
  new Set(findStings(recording, DEFAULT_THRESHOLDS).map(({ label }) => label));

describe('the deckhand’s phone', () => {
  const faulty = record([]);

  it.each([
    ['decode-on-main', 'Tap button “Scan ticket”', 'Ticket.scan'],
    ['shared-lock', 'Tap button “Sync manifest”', 'Manifest.sync'],
    ['deep-views', 'Tap button “Deck list”', 'DeckRow.inflate'],
  ] as const)(
    'stings by %s, with the code that did it, and not when that is mended',
    (fault, label, code) => {
      const sting = findStings(faulty, DEFAULT_THRESHOLDS).find((one) => one.label === label)!;
      expect(sting.kind).toBe('slow-response');
      const anatomy = anatomyOf(faulty, sting);
      expect(displayName(faulty.functions.get(anatomy.culprits[0]!.functionId))).toBe(code);
      expect(anatomy.blame.totalMs).toBeCloseTo(sting.feltMs, 6);
      const sentence = becauseOf(faulty, anatomy).length;
      expect(sentence).toBeGreaterThan(0);
      expect(labels(record([fault]))).not.toContain(label);
    },
  );

  it('misses pictures where the collector stops it, and none when all is mended', () => {
    const missed = ({ events }: Recording) =>
      [...events.sync.rows()].reduce((sum, row) => sum + row.missed, 0);
    expect(missed(record(['decode-on-main', 'shared-lock', 'deep-views']))).toBeGreaterThan(10);
    const mended = record(PHONE_FAULT_NAMES);
    expect([...labels(mended)]).toEqual([]);
    expect(missed(mended)).toBeLessThan(6);
    expect(missed(record([], 7, 120))).toBeGreaterThan(missed(faulty));
  });

  it('has lanes for its display, its threads and what they did', () => {
    const recording = record(['decode-on-main']);
    const kinds = lanesOf(recording).map(({ id }) => id);
    expect(kinds).toEqual(
      expect.arrayContaining(['sync', 'activity', 'thread 0', 'thread 1', 'thread 2', 'memory']),
    );
    expect([...recording.events.activity.rows()].find(({ state }) => state === 'blocked')).toMatchObject({
      thread: 0,
      on: 'the lock of the manifest',
    });
  });

  it('tells the lines its functions stood on, and how often they were called', () => {
    const sting = findStings(faulty, DEFAULT_THRESHOLDS).find(
      ({ label }) => label === 'Tap button “Deck list”',
    )!;
    const [culprit] = anatomyOf(faulty, sting).culprits;
    expect(culprit!.hotLines.map(({ line }) => line)).toEqual([21]);
    const inflated = (recording: Recording) => {
      const { calls } = countedCalls(recording, 0, { startMs: 0, endMs: 1000 });
      return [...calls].map(([id, count]) => [displayName(recording.functions.get(id)), count]);
    };
    expect(inflated(faulty)).toEqual(
      expect.arrayContaining([
        ['DeckList.open', 1],
        ['DeckRow.inflate', 14],
        ['ViewMaker.inflate', 364],
      ]),
    );
    expect(inflated(record(['deep-views']))).toContainEqual(['ViewMaker.inflate', 42]);
  });

  it('does the same for the same seed, however often it is asked', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2 ** 31 }),
        fc.array(fc.integer({ min: 1, max: 9000 }), { maxLength: 6 }),
        (seed, steps) => {
          const settings = { seed, hz: 60, mended: new Set<PhoneFault>() } as const;
          const whole = new Phone(settings).until(20_000);
          const phone = new Phone(settings);
          let atMs = 0;
          const pieces = steps.flatMap((step) => phone.until(Math.min(20_000, (atMs += step))));
          expect([...pieces, ...phone.until(20_000)]).toEqual(whole);
        },
      ),
      { numRuns: 20 },
    );
  });

  it('keeps the display’s clock without gaps or overlaps', () => {
    let atMs = 0;
    for (const { startMs, durationMs } of faulty.events.sync.rows()) {
      expect(startMs).toBeCloseTo(atMs, 2);
      atMs = startMs + durationMs;
    }
  });
});
