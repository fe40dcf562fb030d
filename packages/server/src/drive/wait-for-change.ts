import { createHash } from 'node:crypto';
import { setTimeout as after } from 'node:timers/promises';
import { BadArgumentError } from './arguments';

const POLL_MS = 1000;
/** A new version is there once it has been the same for so many looks: a build may write its files one by one. */
const STEADY_LOOKS = 2;
const MAX_FILES = 200;

/** Scripts and styles that a page names, as absolute addresses of its own origin. */
export function namedFiles(html: string, page: URL): string[] {
  const named = [...html.matchAll(/<(?:script|link)\b[^>]*?\b(?:src|href)\s*=\s*["']?([^"'\s>]+)/gi)];
  const urls = named
    .filter(([, address]) => URL.canParse(address!, page.href))
    .map(([, address]) => new URL(address!, page));
  return [...new Set(urls.filter(({ origin }) => origin === page.origin).map(({ href }) => href))].slice(
    0,
    MAX_FILES,
  );
}

async function textAt(url: string): Promise<string> {
  const answer = await fetch(url, { headers: { 'cache-control': 'no-cache' } });
  if (!answer.ok) throw new Error(`${url} answered ${answer.status}`);
  return answer.text();
}

/** What a page and the files it names are now, in short; undefined while they do not answer. */
async function versionOf(page: URL): Promise<string | undefined> {
  try {
    const html = await textAt(page.href);
    const files = await Promise.all(namedFiles(html, page).map(textAt));
    const hash = createHash('sha256');
    for (const text of [html, ...files]) hash.update(text).update('\0');
    return hash.digest('hex');
  } catch {
    return undefined;
  }
}

export interface ChangeWait {
  readonly page: URL;
  /** Settles when a person says that the new version is there. */
  readonly said?: Promise<void>;
  /** Called when it is known what is there now, so that from then on it may be another. */
  readonly onReady?: () => void;
  readonly pollMs?: number;
}

/**
 * Waits until a page, or a script or style it names, is another than it is now, and stays so.
 * @throws BadArgumentError where it is another each time, so that nothing can be told by it, and nobody can say so
 */
export async function waitForChange({ page, said, onReady, pollMs = POLL_MS }: ChangeWait): Promise<void> {
  const first = await versionOf(page);
  await after(pollMs);
  if (first === undefined || first !== (await versionOf(page))) {
    if (said !== undefined) {
      onReady?.();
      return said;
    }
    throw new BadArgumentError(
      `--wait-for-change: ${page.href} does not answer, or answers otherwise each time, so that a new version cannot be told by it. Give two addresses instead.`,
    );
  }
  onReady?.();
  const isWaiting = new AbortController();
  const changed = async () => {
    let [last, steady] = [first as string | undefined, 0];
    while (!isWaiting.signal.aborted && (steady < STEADY_LOOKS || last === first)) {
      await after(pollMs);
      const now = await versionOf(page);
      steady = now !== undefined && now === last ? steady + 1 : 0;
      last = now;
    }
  };
  await Promise.race([changed(), ...(said === undefined ? [] : [said])]);
  isWaiting.abort();
}
