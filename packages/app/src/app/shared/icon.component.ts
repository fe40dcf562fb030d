import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';

const PATHS = {
  record: 'M12 4a8 8 0 1 0 0 16 8 8 0 0 0 0-16zM12 8.500a3.500 3.500 0 1 0 0 7 3.500 3.500 0 0 0 0-7z',
  stings: 'M4 20c3-9 8-14 16-16-1 8-6 13-16 16zM4 20l9-9',
  calls: 'M4 5h16M4 10h11M8 15h7M11 20h3',
  timeline: 'M4 6h7M8 12h12M4 18h5M13 18h7M15 6h3',
  source: 'M8 7l-5 5 5 5M16 7l5 5-5 5M13.500 5l-3 14',
  settings: 'M4 7h9M17 7h3M15 5v4M4 17h3M11 17h9M9 15v4',
  help: 'M9 9a3 3 0 1 1 4.500 2.600c-1 .6-1.500 1.200-1.500 2.400M12 17.500v.01M12 3a9 9 0 1 0 0 18 9 9 0 0 0 0-18z',
  up: 'M6 15l6-6 6 6',
  down: 'M6 9l6 6 6-6',
  table: 'M4 5h16v14H4zM4 10h16M4 14.500h16M10 10v9',
  lanes: 'M4 6h16M4 12h16M4 18h16',
  search: 'M10.500 4a6.500 6.500 0 1 0 0 13 6.500 6.500 0 0 0 0-13zM15.500 15.500L20 20',
  shelf: 'M4 20h16M6 20V5h4v15M10 20V8h4v12M14.500 8.500l3.500-1 3 12',
  compare: 'M5 6h9M5 10h6M13 14h6M10 18h9M4 14h4M4 18h2M18 6h2M15 10h5',
  trials: 'M4 20V4M4 7h9M4 12h15M4 17h6M13 5v4M19 10v4M10 15v4',
  swap: 'M7 8h12l-3-3M17 16H5l3 3',
  phone: 'M8 3h8a1 1 0 0 1 1 1v16a1 1 0 0 1-1 1H8a1 1 0 0 1-1-1V4a1 1 0 0 1 1-1zM11 18h2',
  computer: 'M4 5h16v11H4zM2 19h20',
  ferry: 'M3 14h18l-3 6H6zM7 14V8h7l4 6M10 8V5',
  file: 'M6 3h8l4 4v14H6zM14 3v4h4',
  play: 'M8 5l11 7-11 7z',
  pause: 'M8 5v14M16 5v14',
  stop: 'M5 5h14v14H5z',
  save: 'M12 4v11M7 11l5 5 5-5M5 20h14',
  more: 'M12 5.500v.01M12 12v.01M12 18.500v.01',
  external: 'M14 4h6v6M20 4l-9 9M10 6H5v13h13v-5',
  previous: 'M15 6l-6 6 6 6',
  next: 'M9 6l6 6-6 6',
  close: 'M6 6l12 12M18 6L6 18',
} as const;

export type IconName = keyof typeof PATHS;

/** A line drawing beside a word. It says nothing that the word does not, so it is hidden from readers. */
@Component({
  selector: 'np-icon',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<svg viewBox="0 0 24 24" aria-hidden="true"><path [attr.d]="path()" /></svg>`,
  styles: `
    :host {
      display: inline-flex;
      width: 1.3em;
      height: 1.3em;
      flex: none;
      vertical-align: -0.3em;
    }
    svg {
      width: 100%;
      height: 100%;
      fill: none;
      stroke: currentColor;
      stroke-width: 1.7;
      stroke-linecap: round;
      stroke-linejoin: round;
    }
  `,
})
export class IconComponent {
  readonly name = input.required<IconName>();
  protected readonly path = computed(() => PATHS[this.name()]);
}
