import { computed, inject, type Signal } from '@angular/core';
import type { Sort } from '@angular/material/sort';
import type { SortedTable } from '../../store/preferences';
import { PreferencesService } from './preferences.service';

/** What a table is put in order by. */
export interface TableOrder {
  readonly sort: Signal<Sort>;
  /** Puts it in another order, which is kept. */
  set(sort: Sort): void;
}

/**
 * The order that a table was given last. To be called where `inject` may be.
 * @param usual the order until it is given another
 */
export function tableOrder(table: SortedTable, usual: Sort): TableOrder {
  const preferences = inject(PreferencesService);
  return {
    sort: computed(
      () => {
        const { active, direction } = preferences.now().sorts[table];
        return active === '' ? usual : { active, direction };
      },
      { equal: (a, b) => a.active === b.active && a.direction === b.direction },
    ),
    set({ active, direction }) {
      const order = { active, direction: direction === 'asc' ? ('asc' as const) : ('desc' as const) };
      // A browser that keeps nothing still puts it in order.
      preferences.change({ sorts: { ...preferences.now().sorts, [table]: order } }).catch(() => undefined);
    },
  };
}
