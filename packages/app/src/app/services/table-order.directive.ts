import { Directive, effect, inject, input } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { MatSort } from '@angular/material/sort';
import type { TableOrder } from './table-order';

/** A table whose heads show its order and put it in another. */
@Directive({ selector: 'table[npOrder]', hostDirectives: [MatSort] })
export class TableOrderDirective {
  readonly order = input.required<TableOrder>({ alias: 'npOrder' });

  constructor() {
    const heads = inject(MatSort);
    heads.disableClear = true;
    effect(() => {
      const { active, direction } = this.order().sort();
      heads.active = active;
      heads.direction = direction;
      heads.ngOnChanges();
    });
    heads.sortChange.pipe(takeUntilDestroyed()).subscribe((sort) => this.order().set(sort));
  }
}
