import { PORTS } from './places';
import { between, pick, seededRandom } from './random';

/**
 * The fares table as text, a line each: from, to, season, kind of vehicle, length in metres, persons, crowns.
 * @param count lines
 */
export function generateFares(count: number, seed = 11): string {
  const random = seededRandom(seed);
  const seasons = ['low', 'shoulder', 'high'];
  const kinds = ['car', 'van', 'caravan', 'lorry', 'none'];
  const lines = Array.from({ length: count }, () => {
    const crowns = (between(random, 40, 2400) / 2).toFixed(2);
    const length = (between(random, 30, 180) / 10).toFixed(1);
    const route = `${pick(random, PORTS)};${pick(random, PORTS)};${pick(random, seasons)}`;
    return `${route};${pick(random, kinds)};${length};${between(random, 1, 9)};${crowns}`;
  });
  return lines.join('\n');
}
