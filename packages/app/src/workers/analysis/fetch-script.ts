import {
  checked,
  scriptTextSchema,
  uninstrumentedSchema,
  type ScriptText,
  type Uninstrumented,
} from '@nettle-patch/core';

/** Asks the server for a script's text and source map. Never fails: what went wrong becomes the script's problem. */
export async function fetchScript(origin: string, secret: string, url: string): Promise<ScriptText> {
  try {
    const answer = await fetch(`${origin}/api/script?url=${encodeURIComponent(url)}`, {
      headers: { authorization: `Bearer ${secret}` },
    });
    if (answer.ok) return checked(await answer.json(), scriptTextSchema);
    return { url, problem: `its text could not be fetched: the server answered ${answer.status}` };
  } catch {
    return { url, problem: 'its text could not be fetched: the server was not there' };
  }
}

/** Asks the server which scripts it did not rewrite; none where it is not there. */
export async function fetchUninstrumented(origin: string, secret: string): Promise<Uninstrumented[]> {
  try {
    const answer = await fetch(`${origin}/api/uninstrumented`, {
      headers: { authorization: `Bearer ${secret}` },
    });
    return answer.ok ? checked(await answer.json(), uninstrumentedSchema) : [];
  } catch {
    return [];
  }
}
