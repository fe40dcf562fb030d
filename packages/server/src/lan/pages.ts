const STYLE =
  'body{font:17px/1.5 system-ui,sans-serif;max-width:34rem;margin:12vh auto;padding:0 1.2rem;color:#1d2a24;background:#faf8f2}h1{font-size:1.4rem}button{font:inherit;padding:.7rem 1.4rem;border:0;border-radius:.5rem;color:#fff;background:#35714a}';

const page = (title: string, body: string) =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${title}</title><style>${STYLE}</style></head><body><h1>${title}</h1>${body}</body></html>`;

const escaped = (text: string) =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');

/**
 * What a device sees that has the address with its code.
 * @param path with the code
 * @param keepsWords whether what is typed is kept too
 */
export function welcomePage(path: string, keepsWords: boolean): string {
  return page(
    'Let this device be recorded?',
    `<p>You are about to open an app through Nettle Patch, which runs on a computer in the room. While somebody there records, it notes what you tap${
      keepsWords ? ', what you type but for passwords,' : ''
    } and how long the app takes to answer${keepsWords ? '' : ', but not what you type'}. A sign on the page says when it does.</p><form method="post" action="${escaped(path)}"><button>Open the app</button></form>`,
  );
}

/** What a device sees that was not let in. */
export function refusedPage(reason: string): string {
  return page(
    'Not let in',
    `<p>${escaped(reason)}</p><p>Ask for a new code: it is shown in the Record view of Nettle Patch, to be scanned or typed.</p>`,
  );
}
