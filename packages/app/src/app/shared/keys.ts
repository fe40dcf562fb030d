/** Whether a key belongs to a field that is written in, or to the browser, and must be left to it. */
export function isTaken(event: KeyboardEvent): boolean {
  const target = event.target instanceof HTMLElement ? event.target : undefined;
  const typing = target?.matches('input, textarea, select, [contenteditable="true"]') ?? false;
  return typing || event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented;
}
