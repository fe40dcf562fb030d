import type { Recording } from './recording';

/** Work on a recording that is done when it is first asked for, and kept as long as the recording is. */
export function memoizedPerRecording<Result>(
  work: (recording: Recording) => Result,
): (recording: Recording) => Result {
  const known = new WeakMap<Recording, { readonly result: Result }>();
  return (recording) => {
    let kept = known.get(recording);
    if (kept === undefined) known.set(recording, (kept = { result: work(recording) }));
    return kept.result;
  };
}

/** The same for each thread of a recording. */
export function memoizedPerThread<Result>(
  work: (recording: Recording, thread: number) => Result,
): (recording: Recording, thread: number) => Result {
  const byThread = memoizedPerRecording(() => new Map<number, { readonly result: Result }>());
  return (recording, thread) => {
    const known = byThread(recording);
    let kept = known.get(thread);
    if (kept === undefined) known.set(thread, (kept = { result: work(recording, thread) }));
    return kept.result;
  };
}
