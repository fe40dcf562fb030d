/**
 * How often the comparison of two recordings is wrong, and what it finds: both sides are drawn from the same
 * distribution (log-normal, one in twenty an outlier, in steps of 8 ms), or one series is made quicker.
 * `npm run bench -- verdicts [--comparisons 400] [--json]`
 */
import { coreTesting } from './lib/core-testing.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';

const comparisons = Number(valueOf('--comparisons', 400));
const { backgroundFalseRate, verdictRates, versusRates } = await coreTesting(['simulated-verdicts']);

const percent = (share) => `${(share * 100).toFixed(1)} %`;
const figures = {
  comparisons,
  nothingChanged: [],
  background: [],
  drifting: [],
  halved: [],
  fifthLess: [],
  versus: [],
};
say(`${comparisons} comparisons each. Nothing changed: comparisons with any verdict, target at most 5 %`);
for (const repeats of [3, 4, 5, 8, 12, 20, 30]) {
  for (const series of [1, 10, 40]) {
    const some = Math.max(20, Math.round(comparisons * Math.min(1, 4000 / (repeats ** 2 * series))));
    const { anyFalse } = verdictRates({
      repeats,
      series,
      comparisons: some,
      factor: 1,
      seed: 31 * repeats + series,
    });
    const error = Math.sqrt((anyFalse * (1 - anyFalse)) / some);
    figures.nothingChanged.push({ repeats, series, comparisons: some, anyFalse, error });
    say(`  ${repeats} repeats, ${series} series: ${percent(anyFalse)} ± ${percent(error)} of ${some}`);
  }
}
say('The same of what goes on in the background of some loads and not of others, of loads of two versions');
for (const loads of [5, 8, 12]) {
  for (const [series, seen] of [
    [1, 0.5],
    [5, 0.3],
    [10, 0.6],
  ]) {
    const anyFalse = backgroundFalseRate({ loads, series, seen, comparisons, seed: loads + series });
    figures.background.push({ loads, series, seen, comparisons, anyFalse });
    say(`  ${loads} loads, ${series} series, each in ${percent(seen)} of them: ${percent(anyFalse)}`);
  }
}
say(
  'Nothing changed, but loads of the page differ by 10 %: what one recording against one cannot control for',
);
for (const repeats of [5, 12, 30]) {
  const { anyFalse } = verdictRates({
    repeats,
    series: 10,
    comparisons,
    factor: 1,
    seed: repeats,
    drift: 0.1,
  });
  figures.drifting.push({ repeats, series: 10, anyFalse });
  say(`  ${repeats} repeats, 10 series: ${percent(anyFalse)}`);
}
for (const [name, factor] of [
  ['halved', 0.5],
  ['fifthLess', 0.8],
]) {
  say(
    `One series of ten ${factor === 0.5 ? 'halved (target 90 % at 8 repeats with one series)' : 'a fifth quicker'}: found`,
  );
  for (const repeats of [4, 5, 8, 12, 20, 30]) {
    for (const series of [1, 10]) {
      const { found, anyFalse } = verdictRates({
        repeats,
        series,
        comparisons,
        factor,
        seed: 7 * repeats + series,
      });
      figures[name].push({ repeats, series, found, anyFalse });
      say(
        `  ${repeats} repeats, ${series} series: ${percent(found)}, another series told falsely ${percent(anyFalse)}`,
      );
    }
  }
}
say(
  'Versus runs: fresh loads that differ by 10 %, everything done three times in each, one series and five, looked at up to twice',
);
for (const rounds of [4, 5, 8, 12]) {
  for (const [factor, series] of [
    [1, 5],
    [0.8, 1],
    [0.5, 1],
    [0.5, 5],
  ]) {
    const rates = versusRates({
      repeats: 3,
      series,
      comparisons,
      factor,
      seed: 13 * rounds + factor * 10,
      drift: 0.1,
      rounds,
    });
    figures.versus.push({ ...rates, most: rounds, factor, series });
    const told = factor === 1 ? '' : `found ${percent(rates.found)}, `;
    say(
      `  ${rounds} rounds at most, ${series} series, ${factor === 1 ? 'nothing changed' : `one × ${factor}`}: ${told}told falsely ${percent(rates.anyFalse)}, ${rates.rounds.toFixed(1)} rounds on average`,
    );
  }
}
if (asJson) console.log(JSON.stringify(figures, null, 2));
