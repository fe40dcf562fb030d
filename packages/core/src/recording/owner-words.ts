import type { Owner } from './functions';

/** Whose code it is, for people. */
export const OWNER_WORDS: Readonly<Record<Owner, string>> = {
  own: 'own',
  library: 'of a library',
  browser: 'of the browser',
};
