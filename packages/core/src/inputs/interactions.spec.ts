import { describe, expect, it } from 'vitest';
import type { Row } from '../format/rows';
import { recordingOf } from '../testing/arbitrary-recording';
import { actionLabel, actionOf } from './action';
import { interactionsOf } from './interactions';

const BUTTON = 'button “Board all”';
const event = (type: string, startMs: number, durationMs: number, more: object = {}): Row => ({
  kind: 'input',
  thread: 0,
  startMs,
  durationMs,
  type,
  processingStartMs: startMs + 2,
  processingEndMs: startMs + 4,
  ...more,
});

describe('interactions', () => {
  it('group events by their id, with the delay of the longest', () => {
    const recording = recordingOf([
      event('pointerdown', 100, 24, { interaction: 7, target: BUTTON }),
      event('pointerup', 180, 400, { interaction: 7, target: BUTTON }),
      event('click', 180, 400, { interaction: 7, target: BUTTON, processingEndMs: 560 }),
      event('keydown', 900, 32, { interaction: 8, target: 'search field “Search manifest”' }),
    ]);
    const found = interactionsOf(recording);
    expect(found.map(({ label, startMs, feltMs }) => [label, startMs, feltMs])).toEqual([
      [`Tap ${BUTTON}`, 180, 400],
      ['Type in search field “Search manifest”', 900, 32],
    ]);
  });

  it('reckon handling from the first listener to the last, of all events the same picture answered', () => {
    const recording = recordingOf([
      event('pointerup', 180, 400, { interaction: 7, processingStartMs: 190, processingEndMs: 191 }),
      event('mouseup', 180, 400, { processingStartMs: 191, processingEndMs: 200 }),
      event('click', 180, 400, { interaction: 7, processingStartMs: 200, processingEndMs: 560 }),
      event('mouseover', 700, 16, { processingStartMs: 700, processingEndMs: 701 }),
    ]);
    expect(interactionsOf(recording)[0]).toMatchObject({ processingStartMs: 190, processingEndMs: 560 });
  });

  it('keep handling within the delay', () => {
    const recording = recordingOf([
      event('click', 100, 50, { interaction: 1, processingStartMs: 90, processingEndMs: 400 }),
    ]);
    expect(interactionsOf(recording)[0]).toMatchObject({ processingStartMs: 100, processingEndMs: 150 });
  });

  it('count inputs that were answered too quickly to be measured, and say so', () => {
    const recording = recordingOf([
      { kind: 'input', thread: 0, startMs: 5, durationMs: 0, type: 'click', target: BUTTON, belowMs: 16 },
    ]);
    expect(interactionsOf(recording)).toMatchObject([
      { label: `Tap ${BUTTON}`, feltMs: 16, measured: false },
    ]);
  });

  it('are one where the press of the pointer was reported and the click was too quick', () => {
    const recording = recordingOf([
      event('pointerdown', 100, 104, { interaction: 7, target: BUTTON }),
      { kind: 'input', thread: 0, startMs: 230, durationMs: 0, type: 'click', target: BUTTON, belowMs: 16 },
      { kind: 'input', thread: 0, startMs: 900, durationMs: 0, type: 'click', target: BUTTON, belowMs: 16 },
    ]);
    expect(interactionsOf(recording).map(({ feltMs, measured }) => [feltMs, measured])).toEqual([
      [104, true],
      [16, false],
    ]);
  });

  it('stay two where a quick click is on something else', () => {
    const recording = recordingOf([
      event('pointerdown', 100, 104, { interaction: 7, target: 'list “Lanes”' }),
      { kind: 'input', thread: 0, startMs: 230, durationMs: 0, type: 'click', target: BUTTON, belowMs: 16 },
    ]);
    expect(interactionsOf(recording).map(({ feltMs }) => feltMs)).toEqual([104, 16]);
  });

  it('know a checkbox that is tapped after typing from typing', () => {
    const recording = recordingOf([
      event('pointerdown', 100, 30, { interaction: 2, target: 'checkbox “Lock lanes”' }),
      event('input', 180, 40, { interaction: 2, target: 'checkbox “Lock lanes”' }),
      event('click', 180, 40, { interaction: 2, target: 'checkbox “Lock lanes”' }),
      event('keydown', 500, 24, { interaction: 3, target: 'search field “Search manifest”' }),
      event('input', 505, 30, { interaction: 3, target: 'search field “Search manifest”' }),
    ]);
    expect(interactionsOf(recording).map(({ label }) => label)).toEqual([
      'Tap checkbox “Lock lanes”',
      'Type in search field “Search manifest”',
    ]);
  });

  it('are none where a touch became a scroll', () => {
    const recording = recordingOf([
      event('pointerdown', 100, 30, { interaction: 2, target: BUTTON }),
      event('pointercancel', 180, 40, { interaction: 2, target: BUTTON }),
    ]);
    expect(interactionsOf(recording)).toEqual([]);
  });

  it('never mix threads', () => {
    const recording = recordingOf([
      event('click', 1, 30, { interaction: 1 }),
      event('click', 1, 60, { interaction: 1, thread: 1 }),
    ]);
    expect(interactionsOf(recording).map(({ thread, feltMs }) => [thread, feltMs])).toEqual([
      [0, 30],
      [1, 60],
    ]);
  });
});

describe('what a person did', () => {
  it('is told from the event and the role, never from what was typed', () => {
    expect(actionLabel(actionOf('keydown', 'text field “Name”'), 'text field “Name”')).toBe(
      'Type in text field “Name”',
    );
    expect(actionLabel(actionOf('keydown', BUTTON), BUTTON)).toBe(`Press a key on ${BUTTON}`);
    expect(actionLabel(actionOf('drop', 'place in “Deck plan”'), 'place in “Deck plan”')).toBe(
      'Drag place in “Deck plan”',
    );
    expect(actionLabel(actionOf('click', ''), '')).toBe('Tap the page');
  });
});
