/** Where a script that comes before the recorder leaves captures for it. */
export const OFFERED = Symbol.for('nettle-patch captures');
