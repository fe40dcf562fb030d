/**
 * What samples every 10 ms tell of functions inside timed handlers, against what they truly took: handlers of 0.5 to
 * 60 ms, each with three functions one after the other.
 * `npm run bench -- sampling [--samples 40000] [--json]`
 */
import { coreTesting } from './lib/core-testing.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';

const samples = Number(valueOf('--samples', 40_000));
const { simulatedRun, toldMs } = await coreTesting(['simulated-sampling']);

const SHARES = [0.2, 0.5, 0.3];
const figures = [];
say('told ÷ true of the first, second and third function of a handler, target 0.98 to 1.02');
for (const handlerMs of [0.5, 1, 2, 3, 5, 7, 10, 12, 15, 18, 20, 25, 30, 35, 40, 47, 55, 60]) {
  const { recording, trueMs } = simulatedRun(handlerMs, SHARES, Math.ceil((samples * 10) / handlerMs));
  const ratios = SHARES.map((_, index) => toldMs(recording, index + 1) / trueMs[index + 1]);
  figures.push({ handlerMs, ratios });
  say(`  ${handlerMs} ms: ${ratios.map((ratio) => ratio.toFixed(3)).join('  ')}`);
}
if (asJson) console.log(JSON.stringify(figures, null, 2));
