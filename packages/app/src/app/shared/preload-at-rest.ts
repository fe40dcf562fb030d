import type { PreloadingStrategy, Route } from '@angular/router';
import { EMPTY, catchError, switchMap, timer, type Observable } from 'rxjs';

/** The first view is drawn, and what it asks for has come, by then. Milliseconds. */
const AFTER_MS = 1500;

/** Loads all views by themselves, once the first one is there, so that they are there when the server is not. */
export class PreloadAtRest implements PreloadingStrategy {
  preload(_route: Route, load: () => Observable<unknown>): Observable<unknown> {
    return timer(AFTER_MS).pipe(
      switchMap(load),
      catchError(() => EMPTY),
    );
  }
}
