import type { TrialProblem } from '@nettle-patch/core';

const IMPORTS = /\b(?:from|import)\s*\(?\s*(['"])(\S+?)\1/g;

/**
 * Which import of a module cannot be had, as engines only tell that something could not.
 * @param address of the module
 */
export async function failedImport(address: string): Promise<TrialProblem | undefined> {
  const text = await (await fetch(address)).text();
  for (const found of text.matchAll(IMPORTS)) {
    const specifier = found[2]!;
    const problem = await problemWith(specifier, address);
    if (problem === undefined) continue;
    const line = text.slice(0, found.index).split('\n').length;
    return { kind: 'threw', message: `${specifier} cannot be imported: ${problem}`, line };
  }
  return undefined;
}

async function problemWith(specifier: string, base: string): Promise<string | undefined> {
  if (!/^(?:[./]|[a-z]+:)/.test(specifier))
    return 'give its path in the app, such as "/src/names.js": a browser does not look for packages by their names';
  try {
    const answer = await fetch(new URL(specifier, base));
    if (!answer.ok) return `the app answered ${answer.status}`;
    const type = answer.headers.get('content-type') ?? '';
    return /javascript|json/.test(type) ? undefined : `it is no script but ${type || 'of no type'}`;
  } catch (error) {
    return (error as Error).message;
  }
}
