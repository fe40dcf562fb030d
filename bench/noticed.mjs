/**
 * What a page can notice of the recorder: some hundreds of checks are answered alone, behind the proxy, and recorded in
 * each mode, in each engine, and what differs is printed.
 * `npm run bench -- noticed [--browsers chromium,firefox,webkit] [--ways alone,proxied,everyday,fine,exact] [--json]`
 */
import { WAYS, answersOf, differing } from '../e2e/noticed/answers.mjs';
import { KNOWN } from '../e2e/noticed/known.mjs';
import { browsersHere } from './lib/browsers.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';

const MAX = 700;
const browsers = browsersHere();
const ways = valueOf('--ways', WAYS.join(',')).split(',');

/** Two answers from shortly before where they part. */
function parting(one, other) {
  let at = 0;
  while (one[at] === other[at] && at < one.length) at++;
  const from = Math.max(0, at - 60);
  return [one, other].map((answer) => answer.slice(from, from + MAX));
}

const figures = [];
for (const browser of browsers) {
  const byWay = await answersOf(browser, ways);
  const checks = Object.keys(byWay.alone).length;
  const differ = differing(byWay);
  figures.push({ browser, checks, differ });
  for (const [way, names] of Object.entries(differ)) {
    say(`${browser}, ${way}: ${names.length} of ${checks} checks have another answer than alone`);
    for (const name of names) {
      if (KNOWN[name]?.ways.includes(way)) {
        say(`  ${name}: ${KNOWN[name].why}`);
        continue;
      }
      const [alone, watched] = parting(byWay.alone[name] ?? '', byWay[way][name] ?? '');
      say(`  ${name}\n    alone ${alone}\n    ${way} ${watched}`);
    }
  }
}
if (asJson) console.log(JSON.stringify(figures, null, 2));
