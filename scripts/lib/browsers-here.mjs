/** The browsers that tests need: installed where they are missing and apt may be used. */
import { existsSync } from 'node:fs';
import { fail, run } from './prepare.mjs';

const CHROMIUM = ['/usr/bin/chromium', '/usr/bin/chromedriver'];
const OTHERS = {
  Firefox: { paths: ['/usr/bin/firefox-esr'], packages: ['firefox-esr'] },
  WebKit: { paths: ['/usr/bin/WebKitWebDriver', '/usr/bin/Xvfb'], packages: ['webkit2gtk-driver', 'xvfb'] },
};

const areHere = (paths) => paths.every((path) => existsSync(path));

function install(packages) {
  const canInstall = existsSync('/usr/bin/apt-get') && process.getuid?.() === 0;
  if (!canInstall) return;
  const quiet = { stdio: ['ignore', 'ignore', 'inherit'] };
  console.log(`Installing ${packages.join(', ')} for the browser tests …`);
  run('apt-get', ['update', '-qq'], quiet);
  run('apt-get', ['install', '-y', '-qq', ...packages], quiet);
}

export function ensureChromium() {
  if (areHere(CHROMIUM)) return;
  install(['chromium', 'chromium-driver']);
  if (!areHere(CHROMIUM)) {
    fail(
      'The browser tests need Chromium. Install it with "sudo apt-get install chromium chromium-driver" and run them again.',
    );
  }
}

/** Installs the other browsers, and says which tests are skipped because one is still not there. */
export function ensureOthers() {
  const missing = Object.values(OTHERS).filter(({ paths }) => !areHere(paths));
  if (missing.length > 0) install(missing.flatMap(({ packages }) => packages));
  for (const [name, { paths, packages }] of Object.entries(OTHERS)) {
    if (areHere(paths)) continue;
    console.log(
      `The tests in ${name} are skipped: it is not installed. On Debian: apt-get install ${packages.join(' ')}`,
    );
  }
}
