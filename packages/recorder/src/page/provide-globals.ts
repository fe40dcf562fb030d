/** Provides values that rewritten scripts use by their global names, which nobody can put others in place of. */
export function provideGlobals(values: Readonly<Record<string, unknown>>): void {
  for (const [name, value] of Object.entries(values)) Object.defineProperty(globalThis, name, { value });
}
