import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterNextRender,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatSortModule, type Sort } from '@angular/material/sort';
import { decimalText, isTime, countText, numberText, msFigure } from '@nettle-patch/core';
import type { CallRow, CallsMode, CallsPage } from '../../workers/analysis/queries/call-queries';
import type { CallColumn, CallSort } from '../../workers/analysis/queries/sort-rows';
import { LensService } from '../services/lens.service';
import { ReportService } from '../reports/report.service';
import { textOfRows } from '../reports/table-text';
import { RecordingService } from '../services/recording.service';
import { onResize } from '../shared/canvas';

interface Heading {
  readonly column: CallColumn;
  readonly words: string;
  readonly title: string;
  /** Whether it has nothing to show where calls were not counted. */
  readonly needsCounts?: boolean;
}

/** @param unit of what calls took */
function headings(unit: string): readonly Heading[] {
  return [
    { column: 'selfMs', words: `self ${unit}`, title: 'In its own code' },
    { column: 'totalMs', words: `total ${unit}`, title: 'While it was on the stack, with all it called' },
    {
      column: 'count',
      words: 'calls',
      title: 'Exact calls, or calls as they were counted in fine mode',
      needsCounts: true,
    },
    { column: 'callsPerSecond', words: 'calls/s', title: 'Calls a second', needsCounts: true },
  ];
}

/** Height of a row and of the head, as the style sheet has them. Pixels. */
const ROW_HEIGHT = 29;
const HEAD_HEIGHT = 32;
/** Rows beyond those that can be seen, and the height that is filled at first: the rest comes a moment later. */
const BESIDE = 6;
const FIRST_TALL = 200;

const ROW_STEPS: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowUp: -1, PageDown: 20, PageUp: -20 };

/** Functions as a table, or as a tree that is opened step by step; all of it by keyboard. */
@Component({
  selector: 'np-call-table',
  imports: [MatSortModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '(scroll)': 'scrolled()' },
  templateUrl: './call-table.component.html',
  styleUrl: './call-table.component.scss',
})
export class CallTableComponent {
  readonly #element = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly page = input.required<CallsPage>();
  readonly mode = input.required<CallsMode>();
  readonly sort = input.required<CallSort>();
  readonly selected = input<string>();
  readonly choose = output<CallRow>();
  readonly twist = output<CallRow>();
  /** Its source is wanted. */
  readonly open = output<CallRow>();
  readonly sortBy = output<Sort>();

  protected readonly slower = inject(LensService).slower;
  readonly #reports = inject(ReportService);
  readonly #unit = inject(RecordingService).unit;
  protected readonly columns = computed(() =>
    headings(this.#unit()).filter(({ needsCounts }) => !needsCounts || this.page().isCounted),
  );
  protected readonly rows = computed(() => {
    const { rows, totalMs } = this.page();
    return rows.map((row) => ({
      ...row,
      share: totalMs === 0 ? 0 : (this.mode() === 'top' ? row.totalMs : row.selfMs) / totalMs,
    }));
  });

  readonly #scrollTop = signal(0);
  readonly #tall = signal(FIRST_TALL);
  /** The rows that can be seen, and the room that those above and below take. */
  protected readonly shown = computed(() => {
    const rows = this.rows();
    const first = Math.max(0, Math.floor(this.#scrollTop() / ROW_HEIGHT) - BESIDE);
    const end = Math.min(rows.length, Math.ceil((this.#scrollTop() + this.#tall()) / ROW_HEIGHT) + BESIDE);
    return {
      first,
      rows: rows.slice(first, end),
      above: first * ROW_HEIGHT,
      below: (rows.length - end) * ROW_HEIGHT,
    };
  });

  constructor() {
    const destroyed = inject(DestroyRef);
    afterNextRender(() => {
      const host = this.#element.nativeElement;
      onResize(host, () => this.#tall.set(host.clientHeight), destroyed);
    });
  }

  protected scrolled(): void {
    this.#scrollTop.set(this.#element.nativeElement.scrollTop);
  }

  /** A length, as the lens has it. */
  protected figure(recordedMs: number): string {
    const ms = recordedMs * this.slower();
    if (!isTime(this.#unit())) return numberText(ms);
    return msFigure(ms);
  }

  /** All lines, also those that are not on the page, as text; callees are indented. */
  text(): string {
    const head = ['function', 'place', ...this.columns().map(({ words }) => words)];
    return textOfRows([head, ...this.rows().map((row) => this.#cells(row))]);
  }

  #cells(row: CallRow): string[] {
    const figures = this.columns().map(({ column }) => row[column]);
    return [
      `${'  '.repeat(row.depth)}${row.name}`,
      row.place,
      ...figures.map((figure) => (typeof figure === 'number' ? numberText(figure) : figure)),
    ];
  }

  /** With one digit behind the point. */
  protected readonly decimal = (value: number) => decimalText(value, 1);

  protected readonly quickTitle =
    'A quick function: one of many calls was timed, and all were counted. What the others took is estimated by those.';

  protected whole(count: number): string {
    return count === 0 ? '' : countText(count);
  }

  protected keyDown(event: KeyboardEvent): void {
    const rows = this.rows();
    const line = event.target instanceof HTMLElement ? event.target.closest('tr') : null;
    const at = line === null ? -1 : Number(line.dataset['at']);
    const row = rows[at];
    const step = ROW_STEPS[event.key];
    if (step !== undefined) this.#select(Math.max(0, Math.min(rows.length - 1, at + step)));
    else if (event.key === 'Home') this.#select(0);
    else if (event.key === 'End') this.#select(rows.length - 1);
    else if (row === undefined) return;
    else if (event.key === 'Enter') this.open.emit(row);
    else if (event.key === 'c' && (event.ctrlKey || event.metaKey))
      this.#reports.copy(textOfRows([this.#cells(row)]), `${row.name} was copied as text.`);
    else if (event.key === 'ArrowRight' && row.hasChildren) {
      if (row.isOpen) this.#select(at + 1);
      else this.twist.emit(row);
    } else if (event.key === 'ArrowLeft') {
      if (row.isOpen) this.twist.emit(row);
      else this.#select(rows.findLastIndex(({ depth }, index) => index < at && depth < row.depth));
    } else return;
    event.preventDefault();
  }

  #select(index: number): void {
    const row = this.rows()[index];
    if (row === undefined) return;
    this.choose.emit(row);
    this.#reveal(index);
    const find = () => this.#element.nativeElement.querySelector<HTMLElement>(`tbody tr[data-at="${index}"]`);
    const line = find();
    if (line !== null) line.focus({ preventScroll: true });
    else requestAnimationFrame(() => find()?.focus({ preventScroll: true }));
  }

  /** Scrolls so that a row is seen. */
  #reveal(index: number): void {
    const host = this.#element.nativeElement;
    const top = index * ROW_HEIGHT;
    const room = host.clientHeight - HEAD_HEIGHT - ROW_HEIGHT;
    if (top < host.scrollTop) host.scrollTop = top;
    else if (top > host.scrollTop + room) host.scrollTop = top - room;
    this.scrolled();
  }
}
