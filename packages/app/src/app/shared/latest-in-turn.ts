import { Observable, type OperatorFunction, type Subscription } from 'rxjs';

/**
 * Works on one value at a time, and then on the latest that came meanwhile: for values that change faster than the work is
 * done, where each result is of use even when it is no longer the newest (a drawing while it is being dragged).
 *
 *     ranges.pipe(latestInTurn((range) => draw(range)))
 */
export function latestInTurn<In, Out>(work: (value: In) => Observable<Out>): OperatorFunction<In, Out> {
  return (source) =>
    new Observable<Out>((subscriber) => {
      let running: Subscription | undefined;
      let waiting: { readonly value: In } | undefined;
      let isDone = false;
      const start = (value: In) => {
        running = work(value).subscribe({
          next: (result) => subscriber.next(result),
          error: (error: unknown) => subscriber.error(error),
          complete: () => {
            running = undefined;
            const next = waiting;
            waiting = undefined;
            if (next !== undefined) start(next.value);
            else if (isDone) subscriber.complete();
          },
        });
        if (running?.closed === true) running = undefined;
      };
      const outer = source.subscribe({
        next(value) {
          if (running === undefined) start(value);
          else waiting = { value };
        },
        error: (error: unknown) => subscriber.error(error),
        complete() {
          isDone = true;
          if (running === undefined) subscriber.complete();
        },
      });
      return () => {
        outer.unsubscribe();
        running?.unsubscribe();
      };
    });
}
