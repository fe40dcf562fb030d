import { NO_STACK } from '@nettle-patch/core';
import { InternedTables } from '../page/interned';

/** The tables of what was sampled: stacks, too. */
export class SampledTables extends InternedTables {
  readonly #stacks = new Map<string, number>();

  /** @param at where the function stood, as far as that is known */
  stack(functionId: number, parent: number, at: { line?: number; column?: number } = {}): number {
    const { line = 0, column = 0 } = at;
    return this.intern(this.#stacks, `${parent} ${functionId} ${line} ${column}`, (id) => {
      const row = { kind: 'stack', id, function: functionId, ...at } as const;
      this.emit(parent === NO_STACK ? row : { ...row, parent });
    });
  }
}
