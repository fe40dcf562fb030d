import { createInterface } from 'node:readline/promises';
import type { FoundApp } from '@nettle-patch/core';
import { printable } from '../printable';
import { findApps } from './find-apps';

/** The lines that offer apps, each by a number. */
export function offerOf(apps: readonly FoundApp[]): string[] {
  return apps.map(
    ({ origin, title }, at) => `  ${at + 1}  ${origin}${title === '' ? '' : `  ${printable(title)}`}`,
  );
}

/** What somebody means who answers an offer: a number of it, nothing for the first, or an address. */
export function chosen(apps: readonly FoundApp[], answer: string): string | undefined {
  const text = answer.trim();
  if (text === '') return apps[0]?.origin;
  return /^\d{1,3}$/.test(text) ? apps[Number(text) - 1]?.origin : text;
}

/**
 * Finds the app to be recorded where nobody has said which: the only one that answers here, or the one that is chosen.
 * @returns undefined where none is chosen, so that it is in the interface
 */
export async function chooseApp(): Promise<string | undefined> {
  const apps = await findApps();
  if (apps.length === 1) return apps[0]!.origin;
  if (!process.stdin.isTTY || !process.stdout.isTTY) return undefined;
  const lines = createInterface({ input: process.stdin, output: process.stdout });
  try {
    const isOffered = apps.length > 0;
    console.log(
      isOffered
        ? `Apps that answer on this computer:\n${offerOf(apps).join('\n')}`
        : 'No app answers at the usual ports.',
    );
    const ask = isOffered
      ? 'Which one? A number, or another address (1): '
      : 'Address of your app (Enter to choose it in the Record view): ';
    for (;;) {
      const answer = await lines.question(ask);
      const found = chosen(apps, answer);
      if (found !== undefined || answer.trim() === '') return found;
    }
  } finally {
    lines.close();
  }
}
