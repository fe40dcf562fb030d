import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

const HEIGHT = 34;

/** A recording's busy time as a small picture, by which one knows it again. */
@Component({
  selector: 'np-card-skyline',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="'0 0 ' + (shares().length || 1) + ' ${HEIGHT}'"
      preserveAspectRatio="none"
      aria-hidden="true"
    >
      <path [attr.d]="path()" />
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      height: 34px;
      border-bottom: 1px solid var(--line);
    }
    path {
      fill: var(--handling);
      opacity: 0.8;
    }
  `,
})
export class CardSkylineComponent {
  /** Busy shares in equal steps, 0 to 1. */
  readonly shares = input.required<readonly number[]>();
  protected readonly path = computed(() =>
    this.shares()
      .map((share, index) => {
        const tall = share * (HEIGHT - 2);
        return `M${index} ${HEIGHT}v${-tall.toFixed(1)}h1v${tall.toFixed(1)}z`;
      })
      .join(''),
  );
}
