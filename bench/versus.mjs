/**
 * Whether versus runs of the demo are right: its faulty against its mended version, and the mended one against itself
 * again and again, by the command, in each engine.
 * `npm run bench -- versus [--browsers chromium,firefox,webkit] [--runs 20] [--rounds 8] [--json]`
 */
import { execFile } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { createDeskServer } from '../packages/demo/dist/desk-server.js';
import { listening } from '../scripts/lib/listening.mjs';
import { browsersHere } from './lib/browsers.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';

const COMMAND = fileURLToPath(new URL('../packages/server/bin/nettle-patch.js', import.meta.url));
/** Exit codes of a run that came to an end: nothing slower, something slower. */
const ENDED = [0, 1];
const STEPS = [
  { do: 'wait-for', on: '[data-ready]' },
  { do: 'click', on: '#board-all' },
  { do: 'wait', ms: 900 },
  { do: 'click', on: '#undo-boarding' },
  { do: 'wait', ms: 600 },
  { do: 'click', on: '#search-manifest' },
  { do: 'wait', ms: 300 },
  { do: 'type', text: 'h' },
  { do: 'wait', ms: 900 },
];
const browsers = browsersHere();
const runs = Number(valueOf('--runs', 20));
const rounds = valueOf('--rounds', '8');
const folder = mkdtempSync(join(tmpdir(), 'versus-'));
const steps = join(folder, 'steps.json');
writeFileSync(steps, JSON.stringify({ steps: STEPS }));

function versus(a, b, browser) {
  const given = ['versus', a, b, '--steps', steps, '--rounds', rounds, '--browser', browser, '--json'];
  return new Promise((resolve, reject) => {
    execFile(process.execPath, [COMMAND, ...given], (error, out, said) => {
      if (error === null || ENDED.includes(error.code)) resolve(JSON.parse(out).browsers[0]);
      else reject(new Error(`${browser}: ended with ${error.code}: ${said}`));
    });
  });
}

const told = ({ series }, ...verdicts) => series.filter(({ verdict }) => verdicts.includes(verdict));
const named = (all) => all.map(({ label, verdict }) => `${label}: ${verdict}`).join('; ') || 'none';

const desk = await listening(createDeskServer());
const faulty = desk.url;
const mended = `${faulty}?mended=all`;
const figures = [];
try {
  for (const browser of browsers) {
    const pair = await versus(faulty, mended, browser);
    const { tested } = pair;
    say(`${browser}, faulty against mended: ${named(told(pair, 'faster', 'slower', 'too-few-to-say'))}`);
    const selves = [];
    const notEnded = [];
    for (let run = 1; run <= runs; run++) {
      try {
        const self = await versus(mended, mended, browser);
        const verdicts = told(self, 'faster', 'slower', 'gone', 'new');
        selves.push({ tested: self.tested, verdicts });
        say(
          `${browser}, mended against itself, run ${run} of ${runs}: ${self.tested} tested, ${named(verdicts)}`,
        );
      } catch ({ message }) {
        notEnded.push(message);
        say(`${browser}, mended against itself, run ${run} of ${runs}: ${message}`);
      }
    }
    const wrong = selves.filter(({ verdicts }) => verdicts.length > 0).length;
    say(
      `${browser}: a verdict on nothing in ${wrong} of ${selves.length} runs, ${notEnded.length} did not end`,
    );
    figures.push({ browser, pair: { tested, series: pair.series }, wrong, selves, notEnded });
  }
} finally {
  desk.close();
  rmSync(folder, { recursive: true });
}
if (asJson) console.log(JSON.stringify(figures, null, 2));
