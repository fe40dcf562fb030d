/** Order of two values of a column: words as the person's language has them, numbers from the least on. */
export function compared(one: string | number, other: string | number): number {
  return typeof one === 'string' ? one.localeCompare(String(other)) : one - Number(other);
}
