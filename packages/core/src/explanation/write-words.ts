/** Functions of the document that write (DOM, CSSOM), and not properties or attributes. */
const CALLED = /^(?:append|prepend|insert|remove|replace|toggle|set|delete|before$|after$)/;

/** "style had been written", "appendChild had been called": what was done before layout was forced. */
export function writeWords(write: string): string {
  return `${write} had been ${CALLED.test(write) ? 'called' : 'written'}`;
}

/** "write style", "call appendChild". */
export function toWrite(write: string): string {
  return `${CALLED.test(write) ? 'call' : 'write'} ${write}`;
}
