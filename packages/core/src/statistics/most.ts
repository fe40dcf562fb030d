/** The entry with the largest value; of equal ones, the first. */
export function mostOf<Key>(values: ReadonlyMap<Key, number>): readonly [Key, number] | undefined {
  return [...values].sort((a, b) => b[1] - a[1])[0];
}
