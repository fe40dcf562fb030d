import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { encode } from 'uqr';

/** A text as a code to scan (ISO/IEC 18004), dark on white in either theme as cameras expect it. */
@Component({
  selector: 'np-scan-code',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      role="img"
      [attr.aria-label]="'Code to scan: ' + text()"
      [attr.viewBox]="box()"
      shape-rendering="crispEdges"
    >
      <rect width="100%" height="100%" fill="#fff" />
      <path [attr.d]="path()" fill="#000" />
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 148px;
      height: 148px;
    }
  `,
})
export class ScanCodeComponent {
  readonly text = input.required<string>();
  readonly #code = computed(() => encode(this.text(), { border: 3 }));
  protected readonly box = computed(() => `0 0 ${this.#code().size} ${this.#code().size}`);
  protected readonly path = computed(() =>
    this.#code()
      .data.flatMap((row, y) => row.flatMap((dark, x) => (dark ? [`M${x} ${y}h1v1h-1z`] : [])))
      .join(''),
  );
}
