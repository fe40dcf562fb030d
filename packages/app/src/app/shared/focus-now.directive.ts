import { Directive, ElementRef, afterNextRender, inject } from '@angular/core';

/** Puts the focus on a field that appears because somebody asked to edit, with its text selected. */
@Directive({ selector: 'input[npFocusNow]' })
export class FocusNowDirective {
  constructor() {
    const field = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;
    afterNextRender(() => {
      field.focus();
      field.select();
    });
  }
}
