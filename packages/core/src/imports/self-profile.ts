import { RefusedRecordingError } from '../format/errors';
import { NO_STACK, packSamples, toMicroseconds } from '../format/packed-samples';
import {
  ImportedTables,
  counted,
  numberIn,
  textIn,
  withoutSecrets,
  type Imported,
  type OpenFormat,
} from './imported';

/** A trace of JS Self-Profiling (WICG), section "The ProfilerTrace dictionary". */
export interface SelfProfile {
  readonly resources: readonly unknown[];
  readonly frames: readonly { name?: unknown; resourceId?: unknown; line?: unknown; column?: unknown }[];
  readonly stacks: readonly { frameId?: unknown; parentId?: unknown }[];
  readonly samples: readonly { timestamp?: unknown; stackId?: unknown }[];
}

function isSelfProfile(value: unknown): value is SelfProfile {
  return ['resources', 'frames', 'stacks', 'samples'].every((name) =>
    Array.isArray((value as Record<string, unknown> | null)?.[name]),
  );
}

const USUAL_INTERVAL_MS = 10;

function usualStep(times: readonly number[]): number {
  const steps = times.slice(1).map((time, at) => time - times[at]!);
  const sorted = steps.filter((step) => step > 0).sort((a, b) => a - b);
  return sorted[sorted.length >> 1] ?? USUAL_INTERVAL_MS;
}

/**
 * Reads a trace of JS Self-Profiling (WICG): resources, frames, stacks and samples that refer to each other by index.
 * @throws RefusedRecordingError where a stack or frame refers to what is not there
 */
function readSelfProfile({ resources, frames, stacks, samples }: SelfProfile): Imported {
  const tables = new ImportedTables();
  const refuse = (what: string, index: number, why: string): never => {
    throw new RefusedRecordingError('not-a-recording', `${what} ${index} of the trace ${why}`);
  };
  const functionIds = frames.map(({ name, resourceId, line, column }) => {
    const resource = numberIn(resourceId);
    const url = resource === undefined ? '' : withoutSecrets(textIn(resources[resource]));
    const place = { line: numberIn(line), column: numberIn(column) };
    return tables.function({
      name: textIn(name),
      ...(url === '' ? {} : { source: tables.source(url) }),
      ...(place.line === undefined ? {} : { line: place.line }),
      ...(place.column === undefined ? {} : { column: place.column }),
    });
  });
  const stackIds: number[] = [];
  stacks.forEach(({ frameId, parentId }, index) => {
    const functionId = functionIds[numberIn(frameId) ?? -1];
    if (functionId === undefined) return refuse('stack', index, `has no frame ${String(frameId)}`);
    const parent = parentId === undefined ? undefined : stackIds[numberIn(parentId) ?? -1];
    if (parentId !== undefined && parent === undefined)
      return refuse('stack', index, `refers to stack ${String(parentId)}, which does not come before it`);
    stackIds.push(tables.stack(functionId, parent));
  });
  const timed = samples.flatMap(({ timestamp, stackId }, index) => {
    const time = numberIn(timestamp);
    const stack = stackId === undefined ? NO_STACK : stackIds[numberIn(stackId) ?? -1];
    if (stack === undefined) return refuse('sample', index, `has no stack ${String(stackId)}`);
    return time === undefined ? [] : [{ time, stack }];
  });
  timed.sort((a, b) => a.time - b.time);
  const startMs = timed[0]?.time ?? 0;
  const intervalMs = usualStep(timed.map(({ time }) => time));
  const columns = {
    timesUs: timed.map(({ time }) => toMicroseconds(time - startMs)),
    stacks: timed.map(({ stack }) => stack),
  };
  const endMs = (timed.at(-1)?.time ?? 0) - startMs + intervalMs;
  const untimed = samples.length - timed.length;
  return {
    format: 'JS Self-Profiling trace',
    available: ['js-self-profiling'],
    lost: [
      'A trace holds sampled stacks only: no inputs, so no delays; no requests; no style, layout or paint.',
      ...(untimed > 0
        ? [`${counted(untimed, 'sample has', 'samples have')} no time and were left out.`]
        : []),
    ],
    rows: [
      { kind: 'thread', id: 0, name: 'main thread', type: 'main' },
      ...tables.rows,
      ...(timed.length === 0 ? [] : [{ kind: 'samples', ...packSamples(0, intervalMs, columns) } as const]),
      { kind: 'end', startMs: Math.max(0, endMs), reason: 'stopped' },
    ],
  };
}

export const selfProfileFormat: OpenFormat<SelfProfile> = {
  name: 'a JS Self-Profiling trace',
  isJson: true,
  recognises: isSelfProfile,
  read: readSelfProfile,
};
