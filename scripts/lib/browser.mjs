/** How Debian's Chromium is started for tests and scripts. */
export const chromiumPath = '/usr/bin/chromium';
export const chromiumFlags = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];
