import { msText } from '@nettle-patch/core';
import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { javascript } from '@codemirror/lang-javascript';
import { syntaxHighlighting } from '@codemirror/language';
import { EditorState, StateEffect } from '@codemirror/state';
import { EditorView, drawSelection, highlightActiveLine, keymap, lineNumbers } from '@codemirror/view';
import { classHighlighter } from '@lezer/highlight';
import { searchKeymap } from '@codemirror/search';
import { scheduleTask } from '../shared/schedule-task';
import type { ShownFile } from '../../workers/analysis/queries/source-queries';
import { costGutters, hotLines } from './cost-gutters';

/** The text of a file, read-only, with what its lines cost beside them and hot lines along its scroll bar. */
@Component({
  selector: 'np-code-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div #host class="host"></div>
    <div class="marks" aria-hidden="true">
      @for (mark of marks(); track mark.line) {
        <button
          type="button"
          tabindex="-1"
          [class]="mark.kind"
          [style.top.%]="mark.at * 100"
          [title]="mark.words"
          (click)="reveal(mark.line)"
        ></button>
      }
    </div>
  `,
  styleUrl: './code-view.component.scss',
})
export class CodeViewComponent {
  readonly file = input.required<ShownFile>();
  /** Line to be shown, from 1. */
  readonly line = input<number>();
  /** The line that the cursor is on, from 1. */
  readonly lineChange = output<number>();

  private readonly host = viewChild.required<ElementRef<HTMLElement>>('host');
  readonly #destroyed = inject(DestroyRef);
  #view: EditorView | undefined;
  #built: ShownFile | undefined;

  protected readonly marks = computed(() => {
    const { text = '', lines } = this.file();
    const count = text.split('\n').length;
    const dearest = Math.max(0.001, ...lines.map(({ selfMs }) => selfMs));
    return lines
      .filter(({ selfMs, forcedCount }) => selfMs > dearest / 50 || forcedCount > 0)
      .map(({ line, selfMs, forcedCount, names }) => ({
        line,
        at: (line - 0.5) / count,
        kind: forcedCount > 0 ? 'forced' : selfMs > dearest / 4 ? 'hot' : 'warm',
        words: `line ${line}, ${names.join(', ')}: ${msText(selfMs)}${forcedCount > 0 ? `, layout forced ${forcedCount} times` : ''}`,
      }));
  });

  constructor() {
    effect(() => {
      this.file();
      scheduleTask(() => this.#build());
    });
    effect(() => {
      const line = this.line();
      if (line !== undefined) this.reveal(line);
    });
    this.#destroyed.onDestroy(() => this.#view?.destroy());
  }

  /** Scrolls to a line and puts the cursor there. */
  reveal(line: number): void {
    const view = this.#view;
    if (view === undefined || line < 1 || line > view.state.doc.lines) return;
    const { from } = view.state.doc.line(line);
    view.dispatch({ selection: { anchor: from }, effects: EditorView.scrollIntoView(from, { y: 'center' }) });
  }

  /** The text first; what makes it a picture of code comes a moment later. */
  #build(): void {
    const file = this.file();
    if (this.#destroyed.destroyed || this.#built === file) return;
    this.#built = file;
    this.#view?.destroy();
    const view = new EditorView({
      parent: this.host().nativeElement,
      state: EditorState.create({
        doc: file.text ?? '',
        extensions: [
          EditorState.readOnly.of(true),
          EditorView.contentAttributes.of({ 'aria-label': `Source of ${file.file}`, tabindex: '0' }),
          costGutters(file.lines),
          lineNumbers(),
          hotLines(file.lines),
          highlightActiveLine(),
          drawSelection(),
          keymap.of(searchKeymap),
          EditorView.updateListener.of(({ state, selectionSet }) => {
            if (selectionSet) this.lineChange.emit(state.doc.lineAt(state.selection.main.head).number);
          }),
        ],
      }),
    });
    this.#view = view;
    const line = this.line();
    if (line !== undefined) requestAnimationFrame(() => this.reveal(line));
    scheduleTask(() => {
      if (this.#view !== view) return;
      const code = [
        javascript({ typescript: true, jsx: /x$/.test(file.file) }),
        syntaxHighlighting(classHighlighter),
      ];
      view.dispatch({ effects: StateEffect.appendConfig.of(code) });
    });
  }
}
