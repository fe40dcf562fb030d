/** What is wrong with the deckhand's phone, each with its mended version. */
export const PHONE_FAULTS = {
  'decode-on-main': 'decodes the picture of a ticket on the main thread',
  'shared-lock': 'waits on the main thread for a lock that the manifest sync holds',
  'deep-views': 'inflates each row of the deck list from views nested in views, and measures them twice',
  'garbage-in-scroll': 'allocates for each row that scrolls by, so that the collector stops the main thread',
} as const;
export type PhoneFault = keyof typeof PHONE_FAULTS;

export const PHONE_FAULT_NAMES = Object.keys(PHONE_FAULTS) as PhoneFault[];

export function isPhoneFault(name: string): name is PhoneFault {
  return Object.hasOwn(PHONE_FAULTS, name);
}
