import { NO_STACK } from '@nettle-patch/core';
import { InternedTables } from '../page/interned';

/** The tables of what was sampled: stacks, too. */
export class SampledTables extends InternedTables {
  readonly #stacks = new Map<string, number>();

  stack(functionId: number, parent: number): number {
    return this.intern(this.#stacks, `${parent} ${functionId}`, (id) => {
      const row = { kind: 'stack', id, function: functionId } as const;
      this.emit(parent === NO_STACK ? row : { ...row, parent });
    });
  }
}
