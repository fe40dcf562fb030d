export interface KeyGroup {
  readonly title: string;
  readonly keys: readonly { readonly keys: readonly string[]; readonly does: string }[];
}

/** Every key and gesture there is: the one set that holds everywhere. */
export const KEY_GROUPS: readonly KeyGroup[] = [
  {
    title: 'Everywhere',
    keys: [
      { keys: ['/'], does: 'search functions, labels, requests and marks' },
      { keys: ['?'], does: 'this sheet' },
      { keys: ['Tab'], does: 'to the next thing; Enter or Space uses it' },
    ],
  },
  {
    title: 'Record',
    keys: [
      { keys: ['r'], does: 'start recording; stop it' },
      { keys: ['m'], does: 'set a mark while it records' },
    ],
  },
  {
    title: 'Ground strip',
    keys: [
      { keys: ['drag'], does: 'set the range of the lens; in it, move it; a grip moves that end' },
      { keys: ['drag at the foot', 'wheel'], does: 'move, stretch or zoom the window of the Timeline' },
      { keys: ['double-click', 'Esc'], does: 'clear the range' },
      { keys: ['←', '→', 'Page ↑', 'Page ↓'], does: 'move the range or an end of it; with Shift, finely' },
      { keys: ['Home', 'End'], does: 'an end of the range as far as it goes' },
    ],
  },
  {
    title: 'Stings',
    keys: [
      { keys: ['j', 'k'], does: 'the next, the one before' },
      { keys: ['Enter'], does: 'to its place in the time view' },
    ],
  },
  {
    title: 'Timeline',
    keys: [
      { keys: ['wheel'], does: 'scroll the lanes; with Shift, move through time' },
      { keys: ['Ctrl + wheel', 'pinch'], does: 'zoom at the pointer' },
      { keys: ['drag'], does: 'set the range of the lens' },
      { keys: ['click'], does: 'show what is there' },
      { keys: ['Esc'], does: 'let go of it: the sum of what is in view' },
      { keys: ['←', '→'], does: 'move through time' },
      { keys: ['+', '−', '0'], does: 'zoom in, zoom out, show all' },
      { keys: ['z'], does: 'zoom to the range' },
      { keys: ['[', ']'], does: 'the sting before, the next' },
      { keys: ['↑', '↓', ',', '.'], does: 'to the row above or below, the thing before or after' },
      { keys: ['Alt + ↑', 'Alt + ↓'], does: 'move the lane of what is selected' },
    ],
  },
  {
    title: 'Calls and Source',
    keys: [
      { keys: ['↑', '↓'], does: 'from line to line' },
      { keys: ['→', '←'], does: 'open a line, close it or go to its caller' },
      { keys: ['Enter'], does: 'to the source; in the flame graph, widen the box' },
    ],
  },
];
