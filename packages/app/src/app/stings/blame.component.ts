import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { BREAKDOWN_PARTS, blameOnSlower, type Anatomy } from '@nettle-patch/core';
import { LensService } from '../services/lens.service';
import { partWords } from '../shared/words';

/** Where the whole delay went, by kind of work: the parts sum to it. */
@Component({
  selector: 'np-blame',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>{{ slower() > 1 ? 'Where it would go, estimated' : 'Where it went' }}</h3>
    <table>
      <tbody>
        @for (row of rows(); track row.part) {
          <tr>
            <td><i aria-hidden="true" [class]="row.part"></i>{{ row.name }}</td>
            <td class="right figure" [attr.data-part]="row.part" [attr.data-ms]="row.ms">
              {{ row.shown }} ms
            </td>
          </tr>
        }
      </tbody>
      <tfoot>
        <tr>
          <td>{{ isDelay() ? 'felt delay' : 'whole stretch' }}</td>
          <td class="right figure" data-part="total" [attr.data-ms]="blame().totalMs">{{ total() }} ms</td>
        </tr>
      </tfoot>
    </table>
  `,
  styles: `
    h3 {
      font-size: 13px;
      color: var(--soft);
      margin-bottom: 2px;
    }
    table {
      border-collapse: collapse;
      width: 100%;
    }
    td {
      padding: 4px 0;
      border-top: 1px solid var(--line);
    }
    tbody tr:first-child td {
      border-top: 0;
    }
    tfoot td {
      font-weight: 700;
      border-top: 2px solid var(--soft);
    }
    .right {
      text-align: right;
      white-space: nowrap;
    }
    i {
      display: inline-block;
      width: 11px;
      height: 11px;
      margin-right: 8px;
      background: var(--other);
    }
    .scriptOwnMs {
      background: var(--script-own);
    }
    .scriptLibraryMs {
      background: var(--script-library);
    }
    .layoutMs {
      background: repeating-linear-gradient(45deg, var(--layout) 0 2px, var(--layout-soft) 2px 4px);
    }
    .styleMs {
      background: radial-gradient(var(--style) 1.2px, var(--style-soft) 1.4px) 0 0 / 4px 4px;
    }
    .paintMs {
      background: repeating-linear-gradient(0deg, var(--paint) 0 2px, var(--paint-soft) 2px 4px);
    }
    .drawingMs {
      background: var(--drawing);
    }
    .collectionMs {
      background:
        repeating-linear-gradient(45deg, var(--collection) 0 1.5px, transparent 1.5px 4px),
        repeating-linear-gradient(-45deg, var(--collection) 0 1.5px, var(--collection-soft) 1.5px 4px);
    }
    .dialogMs {
      background: repeating-linear-gradient(0deg, var(--waiting) 0 2px, var(--waiting-soft) 2px 4px);
    }
    .idleMs {
      background: none;
      border-bottom: 1.5px solid var(--soft);
    }
  `,
})
export class BlameComponent {
  readonly anatomy = input.required<Anatomy>();
  protected readonly slower = inject(LensService).slower;
  protected readonly blame = computed(() => blameOnSlower(this.anatomy().blame, this.slower()));
  protected readonly total = computed(() => this.#shown(this.blame().totalMs));
  protected readonly isDelay = computed(() => this.anatomy().sting.detail === undefined);
  protected readonly rows = computed(() => {
    const blame = this.blame();
    return BREAKDOWN_PARTS.filter((part) => blame[part] >= 0.05).map((part) => ({
      part,
      name: partWords(part),
      ms: blame[part],
      shown: this.#shown(blame[part]),
    }));
  });

  #shown(ms: number): string {
    return this.slower() > 1 ? `≈ ${Math.round(ms)}` : ms.toFixed(1);
  }
}
