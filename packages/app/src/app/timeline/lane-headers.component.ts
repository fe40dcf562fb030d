import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { IconComponent } from '../shared/icon.component';
import { AXIS_HEIGHT, type PlacedLane } from './lane-layout';

/** Names of the lanes beside them, with what can be done with each: move, fold, hide. */
@Component({
  selector: 'np-lane-headers',
  imports: [IconComponent],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (placed of placed(); track placed.lane.id; let first = $first; let last = $last) {
      <div
        class="lane"
        [attr.data-lane]="placed.lane.id"
        [style.top.px]="placed.top + axis"
        [style.height.px]="placed.height"
      >
        <button
          type="button"
          class="name"
          [attr.aria-expanded]="!placed.folded"
          [title]="(placed.folded ? 'Unfold ' : 'Fold ') + placed.lane.title"
          (click)="fold.emit(placed.lane.id)"
        >
          <np-icon [name]="placed.folded ? 'next' : 'down'" /><span>{{ placed.lane.title }}</span>
        </button>
        <span class="tools">
          <button
            type="button"
            [attr.aria-label]="'Move ' + placed.lane.title + ' up'"
            [disabled]="first"
            (click)="move.emit({ lane: placed.lane.id, step: -1 })"
          >
            <np-icon name="up" />
          </button>
          <button
            type="button"
            [attr.aria-label]="'Move ' + placed.lane.title + ' down'"
            [disabled]="last"
            (click)="move.emit({ lane: placed.lane.id, step: 1 })"
          >
            <np-icon name="down" />
          </button>
          <button
            type="button"
            [attr.aria-label]="'Hide ' + placed.lane.title"
            (click)="hide.emit(placed.lane.id)"
          >
            <np-icon name="close" />
          </button>
        </span>
      </div>
    }
  `,
  styles: `
    :host {
      position: relative;
      border-right: 1px solid var(--line);
    }
    .lane {
      position: absolute;
      left: 0;
      right: 0;
      display: flex;
      align-items: flex-start;
      overflow: hidden;
      font-size: 13px;
    }
    button {
      font: inherit;
      color: inherit;
      padding: 2px;
      border: 0;
      background: none;
      cursor: pointer;
    }
    .name {
      display: flex;
      align-items: center;
      gap: 3px;
      flex: 1;
      min-width: 0;
      padding-left: 6px;
      text-align: left;
      white-space: nowrap;
    }
    .name span {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    np-icon {
      font-size: 12px;
    }
    .tools {
      position: absolute;
      right: 0;
      top: 0;
      background: var(--paper);
      opacity: 0;
    }
    .lane:hover .tools,
    .tools:focus-within {
      opacity: 1;
    }
    button:disabled {
      opacity: 0.3;
      cursor: default;
    }
    button:focus-visible {
      outline-offset: -2px;
    }
  `,
})
export class LaneHeadersComponent {
  readonly placed = input.required<readonly PlacedLane[]>();
  readonly move = output<{ readonly lane: string; readonly step: number }>();
  readonly fold = output<string>();
  readonly hide = output<string>();
  protected readonly axis = AXIS_HEIGHT;
}
