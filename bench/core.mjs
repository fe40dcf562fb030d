/**
 * How long the core takes on generated recordings of an hour of light use with 10 thousand to 5 million exact calls.
 * Opening is held against what it takes to decompress the file and parse its lines as JSON in the same run, which no
 * reader can do without.
 * `npm run bench -- core [--spans 10000,1000000] [--mutations 10000] [--json]`
 */
import { gunzipSync } from 'node:zlib';
import { coreTesting } from './lib/core-testing.mjs';
import { measureCore } from './lib/core-measures.mjs';
import { generatedFile } from './lib/generated-recording.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';

const sizes = valueOf('--spans', '10000,100000,1000000,5000000').split(',').map(Number);
const mutations = Number(valueOf('--mutations', 10_000));
const ROUNDS = 5;

/** The damage of the tests, many times: none may crash, hang or take memory without bound. */
async function mutated(times) {
  const { mutate, readDamaged } = await coreTesting(['mutate', 'damage']);
  const bytes = gunzipSync(generatedFile(2000)).subarray(0, 150_000);
  const counts = { refused: 0, told: 0, whole: 0 };
  let longestMs = 0;
  const startedAt = performance.now();
  for (let seed = 1; seed <= times; seed++) {
    const from = performance.now();
    counts[readDamaged(mutate(bytes, seed))]++;
    longestMs = Math.max(longestMs, performance.now() - from);
  }
  return { times, ...counts, longestMs, seconds: (performance.now() - startedAt) / 1000 };
}

/**
 * How the time of what is asked grows with what a recording has much of, at 1, 2 and 4 times as much: the exponent is 1
 * where twice as much takes twice as long.
 */
async function growths() {
  const { GROWTHS, grown } = await coreTesting(['growing-recordings']);
  return GROWTHS.map((growth) => {
    const ms = [1, 2, 4].map((times) =>
      Math.min(
        ...Array.from({ length: ROUNDS }, () => {
          const from = performance.now();
          growth.ask(grown(growth, times));
          return performance.now() - from;
        }),
      ),
    );
    return { name: growth.name, size: growth.size, ms, exponent: Math.log2(ms[2] / ms[0]) / 2 };
  });
}

say(
  'Targets are set for a million calls and an hour of light events. With fewer calls the light events, which are the same in all sizes, count for more of each figure, and the first size runs in code that is not warm yet.',
);
const figures = [];
for (const spans of sizes) {
  const figure = measureCore(generatedFile(spans), spans, ROUNDS);
  figures.push(figure);
  say(
    [
      `${spans.toLocaleString('en')} calls, ${(figure.fileBytes / 1e6).toFixed(1)} MB`,
      `  open to ranked stings   ${figure.openMs.toFixed(0)} ms = ${figure.openRatio.toFixed(2)} × the limit of ${figure.limitMs.toFixed(0)} ms (target 2.5)`,
      `    of which ${Object.entries(figure.openingParts)
        .map(([part, ms]) => `${part} ${ms.toFixed(0)}`)
        .join('; ')} ms`,
      `  blame of a range        ${figure.blameNs.toFixed(1)} ns a span (target 12), the first time ${figure.blameFirstNs.toFixed(1)}; its segments, when wanted, ${figure.partitionNs.toFixed(1)}`,
      `  call tree, callers, table ${figure.treeNs.toFixed(1)}, ${figure.callersNs.toFixed(1)}, ${figure.tableNs.toFixed(1)} ns a span, worst lens (target 40)`,
      `  drawing any zoom        ${figure.drawMs.toFixed(2)} ms (target 6)`,
      `  memory                  ${figure.bytesASpan.toFixed(1)} bytes a span (target 40)`,
      ...Object.entries(figure.profiles).map(
        ([name, functions]) =>
          `  ${name} misses its target; it is spent in: ${functions.map(({ name: of, share }) => `${of} ${(share * 100).toFixed(0)} %`).join(', ')}`,
      ),
      `  taking in a stream      ${(figure.callsASecond / 1e6).toFixed(2)} million calls a second (target 1)`,
    ].join('\n'),
  );
}
const damage = mutations > 0 ? await mutated(mutations) : undefined;
if (damage !== undefined) {
  say(
    `${damage.times.toLocaleString('en')} damaged files in ${damage.seconds.toFixed(0)} s: ${damage.refused} refused, ${damage.told} read with the loss told, ${damage.whole} unharmed; longest ${damage.longestMs.toFixed(0)} ms`,
  );
}
const growth = await growths();
say('growth at 1 ×, 2 × and 4 ×, and its exponent (no step worse than n log n: some 1.1 at these sizes)');
for (const { name, size, ms, exponent } of growth) {
  const lengths = ms.map((one) => one.toFixed(0)).join(', ');
  say(
    `  ${name.padEnd(20)} from ${size.toLocaleString('en')}: ${lengths} ms, exponent ${exponent.toFixed(2)}`,
  );
}
if (asJson) console.log(JSON.stringify({ figures, damage, growth }, null, 2));
