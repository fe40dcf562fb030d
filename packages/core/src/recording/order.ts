/** Whether no value is less than the one before it. */
export function isAscending(values: ArrayLike<number>): boolean {
  for (let index = 1; index < values.length; index++) if (values[index]! < values[index - 1]!) return false;
  return true;
}
