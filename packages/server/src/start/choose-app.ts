import { createInterface } from 'node:readline/promises';
import { printable } from '../printable';
import { BadAddressError } from '../serve';
import { findApps, type FoundApp } from './find-apps';

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

const EXAMPLE = 'npx nettle-patch http://localhost:3000';

/**
 * Finds the app to be recorded where nobody has said which: the only one that answers here, or the one that is chosen.
 * @throws BadAddressError where there is none, or nobody to choose
 */
export async function chooseApp(): Promise<string> {
  const apps = await findApps();
  if (apps.length === 1) return apps[0]!.origin;
  if (!process.stdin.isTTY || !process.stdout.isTTY) {
    throw new BadAddressError(
      apps.length === 0
        ? `No app answers at the usual ports of this computer. Start it, or give its address: ${EXAMPLE}`
        : `Several apps answer on this computer. Give the address of one, such as ${EXAMPLE}:\n${offerOf(apps).join('\n')}`,
    );
  }
  const lines = createInterface({ input: process.stdin, output: process.stdout });
  try {
    const isOffered = apps.length > 0;
    console.log(
      isOffered
        ? `Apps that answer on this computer:\n${offerOf(apps).join('\n')}`
        : 'No app answers at the usual ports.',
    );
    const ask = isOffered ? 'Which one? A number, or another address (1): ' : 'Address of your app: ';
    for (;;) {
      const found = chosen(apps, await lines.question(ask));
      if (found !== undefined) return found;
    }
  } finally {
    lines.close();
  }
}
