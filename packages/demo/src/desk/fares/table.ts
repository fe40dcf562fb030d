/** Lowest fare of a route, in crowns. */
export type Fares = ReadonlyMap<string, number>;

declare global {
  /** The fares table as the server sends it. */
  var faresTable: string;
  /** What the script in the head made of it before anything was shown. */
  var faresAtStart: Fares | undefined;
}

/** Reads the whole fares table, line by line, and finds the lowest fare of every route. */
export function parseFares(table: string): Fares {
  const lowest = new Map<string, number>();
  for (const line of table.split('\n')) {
    const [from, to, season, kind, length, persons, crowns] = line.split(';');
    const route = `${from}–${to}, ${season}, ${kind}`.toLocaleLowerCase('en');
    const fare = Number(crowns) * (1 + (Number(length) * Number(persons)) / 1000);
    lowest.set(route, Math.min(lowest.get(route) ?? Infinity, fare));
  }
  return lowest;
}

/** The first line only, for a figure that stands until the table is wanted. */
export function firstFare(table: string): number {
  return Number(table.slice(0, table.indexOf('\n')).split(';').at(-1));
}
