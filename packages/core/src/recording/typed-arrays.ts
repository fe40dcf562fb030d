/** Copies a typed array to the beginning of a larger one. @returns the larger one */
export function copyInto<A extends { set(from: A): void }>(larger: A, from: A): A {
  larger.set(from);
  return larger;
}
