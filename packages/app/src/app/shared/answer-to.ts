import type { Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { of, switchMap, type Observable } from 'rxjs';

/**
 * The answer to a question that changes: asked anew whenever it does, the newest question wins, and the answer to the one
 * before stands until then. To be called where `inject` may be.
 *
 *     readonly details = answerTo(this.selected, ({ lane, ref }) => recordings.ask('item', lane, ref));
 *
 * @param question undefined where there is none: then there is no answer either
 */
export function answerTo<Question, Answer>(
  question: Signal<Question | undefined>,
  ask: (question: Question) => Observable<Answer>,
): Signal<Answer | undefined> {
  const answers = toObservable(question).pipe(
    switchMap((asked) => (asked === undefined ? of(undefined) : ask(asked))),
  );
  return toSignal(answers);
}
