import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { countText, decimalText, blameOnSlower, type Anatomy } from '@nettle-patch/core';
import { LensService } from '../services/lens.service';
import { PartSwatchComponent } from '../shared/part-swatch.component';
import { shownParts } from '../shared/words';

/** Where the whole delay went, by kind of work: the parts sum to it. */
@Component({
  selector: 'np-blame',
  imports: [PartSwatchComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>{{ slower() > 1 ? 'Where it would go, estimated' : 'Where it went' }}</h3>
    <table>
      <tbody>
        @for (row of rows(); track row.part) {
          <tr>
            <td><np-part-swatch [part]="row.part" />{{ row.name }}</td>
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
  `,
})
export class BlameComponent {
  readonly anatomy = input.required<Anatomy>();
  protected readonly slower = inject(LensService).slower;
  protected readonly blame = computed(() => blameOnSlower(this.anatomy().blame, this.slower()));
  protected readonly total = computed(() => this.#shown(this.blame().totalMs));
  protected readonly isDelay = computed(() => this.anatomy().sting.detail === undefined);
  protected readonly rows = computed(() => {
    return shownParts(this.blame()).map((row) => ({ ...row, shown: this.#shown(row.ms) }));
  });

  #shown(ms: number): string {
    return this.slower() > 1 ? `≈ ${countText(ms)}` : decimalText(ms, 1);
  }
}
