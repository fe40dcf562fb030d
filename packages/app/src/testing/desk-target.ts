import type { Target } from '@nettle-patch/core';

/** The boarding desk, open in a browser that has a sampler of its own. */
export const DESK_TARGET: Target = {
  id: 'desk',
  title: 'Boarding desk',
  url: 'http://localhost:4790/',
  engine: 'Blink 156',
  device: 'computer, Linux',
  available: ['event'],
  missing: [],
  visible: true,
  recording: null,
};
