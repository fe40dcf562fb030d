import { IN_WORK_PATH, REWRITING_STAGES, type ScriptInWork } from '@nettle-patch/core';
import { shared } from '../page/shared';

/** A page whose scripts are there sooner is told of nothing. */
const PATIENCE_MS = 500;
const EVERY_MS = 300;
const STYLE =
  'all:initial;position:fixed;z-index:2147483647;inset:0 0 auto;padding:10px 16px;white-space:pre-line;font:14px/21px system-ui,sans-serif;color:#fff;background:#7d1742';

/** What the recorder has put another function in place of. */
const original = <F extends object>(instead: F) => (shared.stoodFor.get(instead) ?? instead) as F;

function wordsOf({ name, megabytes, stage, sinceMs }: ScriptInWork): string {
  const step = `step ${REWRITING_STAGES.indexOf(stage) + 1} of ${REWRITING_STAGES.length}`;
  return `${name}, ${megabytes.toFixed(1)} MB: ${stage}, ${step}, for ${Math.round(sinceMs / 1000)} s`;
}

/** A string of CSS (CSS Syntax, section 4.3.5): every character by its number, so that none means anything. */
function cssString(text: string): string {
  return `"${Array.from(text, (character) => `\\${character.codePointAt(0)!.toString(16)} `).join('')}"`;
}

/**
 * Says at the top of a page that it waits for scripts that are being rewritten, and how far they are. It is drawn by a
 * sheet of styles alone: nothing is put into the document.
 * @returns puts it away, before a script of the page runs that could see it; it comes back where the page waits again
 */
export function tellOfWaiting(): () => void {
  if (window !== window.parent) return () => undefined;
  const [ask, wait] = [original(fetch), original(setTimeout)];
  const sheet = new CSSStyleSheet();
  let isShown = false;
  const show = (lines: readonly string[]) => {
    const isWanted = lines.length > 0;
    if (isWanted) sheet.replaceSync(`html::before{${STYLE};content:${cssString(lines.join('\n'))}}`);
    if (isShown === isWanted) return;
    isShown = isWanted;
    const others = document.adoptedStyleSheets.filter((one) => one !== sheet);
    document.adoptedStyleSheets = isWanted ? [...others, sheet] : others;
  };
  const putAway = () => show([]);
  const look = async () => {
    const isOver = () => document.readyState === 'complete';
    if (isOver()) return;
    const answer = await ask(IN_WORK_PATH);
    const scripts = answer.ok && !isOver() ? ((await answer.json()) as ScriptInWork[]) : [];
    const what = 'Nettle Patch rewrites scripts of this page, so that their calls can be recorded.';
    show(scripts.length > 0 ? [what, ...scripts.map(wordsOf)] : []);
    again(EVERY_MS);
  };
  // Where nothing answers, the page waits as it would alone.
  const again = (ms: number) => void wait(() => void look().catch(putAway), ms);
  again(PATIENCE_MS);
  return putAway;
}
