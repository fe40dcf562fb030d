import type { Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { debounceTime } from 'rxjs';

/**
 * What a signal said when it last stood still. To be called where `inject` may be.
 * @param ms so long it must not change
 * @param first what stands until then; undefined where nothing is given
 */
export function atRest<Value>(source: Signal<Value>, ms: number): Signal<Value | undefined>;
export function atRest<Value>(source: Signal<Value>, ms: number, first: Value): Signal<Value>;
export function atRest<Value>(source: Signal<Value>, ms: number, first?: Value): Signal<Value | undefined> {
  return toSignal<Value | undefined, Value | undefined>(toObservable(source).pipe(debounceTime(ms)), {
    initialValue: first,
  });
}
