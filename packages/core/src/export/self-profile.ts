import { NO_STACK } from '../format/packed-samples';
import { displayName } from '../recording/functions';
import type { Recording } from '../recording/recording';

/** A trace in the shape of JS Self-Profiling (WICG). */
export interface ProfileTrace {
  readonly resources: string[];
  readonly frames: { name: string; resourceId?: number; line?: number; column?: number }[];
  readonly stacks: { frameId: number; parentId?: number }[];
  readonly samples: { timestamp: number; stackId?: number }[];
}

/** The samples of one thread as a trace of JS Self-Profiling. Exact calls have no place in it. */
export function selfProfile(recording: Recording, thread: number): ProfileTrace {
  const { stacks, functions, sources } = recording;
  const trace: ProfileTrace = { resources: [], frames: [], stacks: [], samples: [] };
  const numbered = (known: Map<number, number>, id: number, add: () => number): number => {
    let number = known.get(id);
    if (number === undefined) known.set(id, (number = add()));
    return number;
  };
  const [resourceIds, frameIds, stackIds] = [0, 1, 2].map(() => new Map<number, number>()) as [
    Map<number, number>,
    Map<number, number>,
    Map<number, number>,
  ];
  const resourceOf = (source: number) =>
    numbered(resourceIds, source, () => trace.resources.push(sources.get(source)?.url ?? '') - 1);
  const frameOf = (functionId: number) =>
    numbered(frameIds, functionId, () => {
      const recorded = functions.get(functionId);
      const { source, line, column } = recorded ?? {};
      return (
        trace.frames.push({
          name: displayName(recorded),
          ...(source === undefined ? {} : { resourceId: resourceOf(source) }),
          ...(line === undefined ? {} : { line }),
          ...(column === undefined ? {} : { column }),
        }) - 1
      );
    });
  const stackOf = (stack: number): number => {
    const unknown: number[] = [];
    let at = stack;
    for (; at !== NO_STACK && !stackIds.has(at); at = stacks.parentOf(at)) unknown.push(at);
    let parentId = at === NO_STACK ? undefined : stackIds.get(at);
    for (const one of unknown.reverse()) {
      const frameId = frameOf(stacks.functionOf(one));
      const id = trace.stacks.push(parentId === undefined ? { frameId } : { frameId, parentId }) - 1;
      stackIds.set(one, id);
      parentId = id;
    }
    return parentId!;
  };
  const samples = recording.samples.get(thread);
  for (let at = 0; at < (samples?.length ?? 0); at++) {
    const stack = samples!.stacks[at]!;
    const timestamp = samples!.timesUs[at]! / 1000;
    trace.samples.push(stack === NO_STACK ? { timestamp } : { timestamp, stackId: stackOf(stack) });
  }
  return trace;
}
