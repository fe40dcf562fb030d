import { byId } from '../dom';
import type { FaultSwitches } from '../faults';

const PIXELS_A_SECOND = 40;

/** Lets the notices run past, by their left position in every frame or, mended, by an animated transform. */
export function moveNotices(switches: FaultSwitches): void {
  const text = byId('notice-text');
  const width = text.parentElement!.clientWidth;
  const way = width + text.offsetWidth;
  let startMs = 0;

  function moveNotice(nowMs: number): void {
    if (switches.isMended('ticker')) return glide();
    startMs ||= nowMs;
    const gone = (((nowMs - startMs) / 1000) * PIXELS_A_SECOND) % way;
    text.style.left = `${(width - gone).toFixed(1)}px`;
    requestAnimationFrame(moveNotice);
  }

  function glide(): void {
    text.style.left = '0';
    text.classList.add('gliding');
  }

  switches.onChange(() => {
    if (switches.isMended('ticker') || !text.classList.contains('gliding')) return;
    text.classList.remove('gliding');
    requestAnimationFrame(moveNotice);
  });
  requestAnimationFrame(moveNotice);
}
