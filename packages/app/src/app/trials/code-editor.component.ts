import type { ElementRef } from '@angular/core';
import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  afterNextRender,
  effect,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { javascript } from '@codemirror/lang-javascript';
import { bracketMatching, indentOnInput, indentUnit, syntaxHighlighting } from '@codemirror/language';
import { EditorState } from '@codemirror/state';
import { EditorView, drawSelection, highlightActiveLine, keymap, lineNumbers } from '@codemirror/view';
import { classHighlighter } from '@lezer/highlight';

/** A piece of code that can be changed. Tab leaves it, so that no keyboard is caught in it. */
@Component({
  selector: 'np-code-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div #host class="host"></div>`,
  styleUrl: './code-editor.component.scss',
})
export class CodeEditorComponent {
  readonly text = input.required<string>();
  readonly label = input.required<string>();
  /** Called with the text after each change of it by the person. */
  readonly textChange = output<string>();

  private readonly host = viewChild.required<ElementRef<HTMLElement>>('host');
  #view: EditorView | undefined;

  constructor() {
    afterNextRender(() => this.#build());
    effect(() => this.#show(this.text()));
    inject(DestroyRef).onDestroy(() => this.#view?.destroy());
  }

  #build(): void {
    this.#view = new EditorView({
      parent: this.host().nativeElement,
      state: EditorState.create({
        doc: this.text(),
        extensions: [
          EditorView.contentAttributes.of({ 'aria-label': this.label(), tabindex: '0' }),
          lineNumbers(),
          history(),
          drawSelection(),
          highlightActiveLine(),
          bracketMatching(),
          indentOnInput(),
          indentUnit.of('  '),
          javascript({ typescript: true }),
          syntaxHighlighting(classHighlighter),
          keymap.of([...defaultKeymap, ...historyKeymap]),
          EditorView.updateListener.of(({ docChanged, state }) => {
            const text = state.doc.toString();
            if (docChanged && text !== this.text()) this.textChange.emit(text);
          }),
        ],
      }),
    });
  }

  /** Shows a text that comes from elsewhere; the person's own is there already. */
  #show(text: string): void {
    const view = this.#view;
    if (view === undefined || view.state.doc.toString() === text) return;
    view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } });
  }
}
