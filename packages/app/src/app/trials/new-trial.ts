import type { Trial } from '@nettle-patch/core';

/** A trial to begin with, which runs as it is. */
export const NEW_TRIAL: Trial = {
  name: 'New trial',
  place: 'worker',
  setUp:
    "// Runs before each alternative, once in each start. It may import modules of the app:\n// import { tideAt } from '/src/tide.js';\nconst fares = Array.from({ length: 1000 }, (_, at) => (at * 37) % 90);\n",
  alternatives: [
    { name: 'As it is', code: 'return fares.reduce((sum, fare) => sum + fare, 0);' },
    {
      name: 'Another way',
      code: 'let sum = 0;\nfor (const fare of fares) sum += fare;\nreturn sum;',
    },
  ],
};
