import { PAIR_PATH, TAG_PATH } from '@nettle-patch/core';
import { startRecorder } from '../page/start';

const { fetch } = globalThis;
/** Where a page that was let in remembers it, for as long as its tab is open: a code holds only once. */
const KEY = 'nettle-patch';

/** The secret that a code was exchanged for; undefined where nothing is remembered, or the page keeps nothing. */
function remembered(code: string): string | undefined {
  try {
    const kept = sessionStorage.getItem(KEY)?.split(' ');
    return kept?.[0] === code ? kept[1] : undefined;
  } catch {
    return undefined;
  }
}

function remember(code: string, secret: string): void {
  try {
    sessionStorage.setItem(KEY, `${code} ${secret}`);
  } catch {
    // It is then let in anew with each load, by a new code.
  }
}

async function exchanged(server: string, code: string): Promise<string | undefined> {
  const answer = await fetch(server + PAIR_PATH + encodeURIComponent(code), {
    method: 'POST',
    headers: { accept: 'text/plain' },
  });
  return answer.ok ? answer.text() : undefined;
}

/**
 * Records a page that does not come through the proxy, once it was let in. What it does until then is recorded too, if it
 * was asked for.
 * @param server origin of the room, as the Record view shows it
 * @param code that lets one device in
 * @returns whether it was let in; where it was not, the page says so in its console
 */
export async function joinByCode(server: string, code: string): Promise<boolean> {
  const connect = startRecorder(server + TAG_PATH, false);
  if (connect === undefined) return false;
  const problem = (words: string) => {
    console.warn(`Nettle Patch: ${words}`);
    return false;
  };
  try {
    const secret = remembered(code) ?? (await exchanged(server, code));
    if (secret === undefined)
      return problem('the code does not hold any more; the Record view shows another.');
    remember(code, secret);
    connect(secret);
    return true;
  } catch {
    return problem(`${server} cannot be reached from this page.`);
  }
}
