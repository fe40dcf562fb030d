import fc from 'fast-check';
import { Subject, of } from 'rxjs';
import { describe, expect, it } from 'vitest';
import { latestInTurn } from './latest-in-turn';

/** Values that are worked on by hand. */
function working() {
  const source = new Subject<number>();
  const begun: number[] = [];
  const results: number[] = [];
  const running: Subject<number>[] = [];
  let isDone = false;
  const subscription = source
    .pipe(
      latestInTurn((value) => {
        begun.push(value);
        const work = new Subject<number>();
        running.push(work);
        return work;
      }),
    )
    .subscribe({ next: (value) => results.push(value), complete: () => (isDone = true) });
  const finish = () => {
    const work = running.shift();
    work?.next(begun.at(-1)! * 10);
    work?.complete();
  };
  return { source, begun, results, finish, running, subscription, isDone: () => isDone };
}

describe('work on the latest in turn', () => {
  it('is done on one at a time, then on the latest that came meanwhile', () => {
    const { source, begun, results, finish } = working();
    for (const value of [1, 2, 3]) source.next(value);
    expect(begun).toEqual([1]);
    finish();
    expect(begun).toEqual([1, 3]);
    finish();
    finish();
    expect(results).toEqual([10, 30]);
  });

  it('always comes to the last value, in order, however work and values alternate', () => {
    fc.assert(
      fc.property(fc.array(fc.boolean(), { maxLength: 60 }), (turns) => {
        const { source, begun, finish, running } = working();
        let last = 0;
        for (const isValue of turns) {
          if (isValue) source.next(++last);
          else finish();
          expect(running.length).toBeLessThanOrEqual(1);
        }
        while (running.length > 0) finish();
        expect(begun.at(-1) ?? 0).toBe(last);
        expect([...begun].sort((a, b) => a - b)).toEqual(begun);
      }),
    );
  });

  it('ends with its source, once the work is done, and when nobody waits', () => {
    const { source, finish, isDone } = working();
    source.next(1);
    source.complete();
    expect(isDone()).toBe(false);
    finish();
    expect(isDone()).toBe(true);
    const left = working();
    left.source.next(1);
    left.subscription.unsubscribe();
    expect([left.source.observed, left.running[0]!.observed]).toEqual([false, false]);
  });

  it('is done at once where it takes no time', () => {
    const results: number[] = [];
    of(1, 2, 3)
      .pipe(latestInTurn((value) => of(value)))
      .subscribe((value) => results.push(value));
    expect(results).toEqual([1, 2, 3]);
  });
});
