import { NO_STACK, RECORDER_PATH, packSamples, toMicroseconds } from '@nettle-patch/core';
import type { RecordingSession } from '../session';
import type { Capture } from './capture';

interface ProfilerTrace {
  readonly resources: readonly string[];
  readonly frames: readonly { name: string; resourceId?: number; line?: number; column?: number }[];
  readonly stacks: readonly { frameId: number; parentId?: number }[];
  readonly samples: readonly { timestamp: number; stackId?: number }[];
}

interface Profiler {
  readonly sampleInterval: number;
  stop(): Promise<ProfilerTrace>;
}

type ProfilerConstructor = new (options: { sampleInterval: number; maxBufferSize: number }) => Profiler;

const INTERVAL_MS = 10;
/** Samples one profiler holds at most: enough for a hang of three minutes. */
const BUFFER_SAMPLES = 20_000;
/** How often samples are fetched, so that a killed page loses no more than a quarter of a second. */
const FETCH_EVERY_MS = 200;

const constructorOf = () => (globalThis as { Profiler?: ProfilerConstructor }).Profiler;

/** A profiler samples the moment it is started in, which is the recorder's own; its cost is measured apart. */
const isRecorder = (url: string | undefined) => url?.includes(RECORDER_PATH) ?? false;

function emitTrace(trace: ProfilerTrace, intervalMs: number, session: RecordingSession): void {
  const { tables } = session;
  const functionIds = trace.frames.map((frame) => {
    const url = frame.resourceId === undefined ? '' : (trace.resources[frame.resourceId] ?? '');
    return isRecorder(url) ? NO_STACK : tables.functionAt(frame.name, url, frame.line, frame.column);
  });
  const stackIds: number[] = [];
  const ofRecorder: boolean[] = [];
  for (const { frameId, parentId } of trace.stacks) {
    const parent = parentId === undefined ? NO_STACK : stackIds[parentId]!;
    const { resourceId = -1 } = trace.frames[frameId]!;
    ofRecorder.push(
      isRecorder(trace.resources[resourceId]) || (parentId !== undefined && ofRecorder[parentId]!),
    );
    stackIds.push(ofRecorder.at(-1) ? NO_STACK : tables.stack(functionIds[frameId]!, parent));
  }
  const samples = trace.samples.filter(
    ({ timestamp, stackId }) =>
      timestamp >= session.originMs && !(stackId !== undefined && ofRecorder[stackId]),
  );
  if (samples.length === 0) return;
  const packed = packSamples(session.thread, intervalMs, {
    timesUs: samples.map((sample) => toMicroseconds(session.time(sample.timestamp))),
    stacks: samples.map((sample) => (sample.stackId === undefined ? NO_STACK : stackIds[sample.stackId]!)),
  });
  session.emit({ kind: 'samples', ...packed });
}

/** Call stacks every 10 ms (WICG JS Self-Profiling). */
export function sampling(): Capture {
  let session: RecordingSession | undefined;
  let profiler: Profiler | undefined;
  let startedMs = 0;

  const begin = () => {
    const Profiler = constructorOf()!;
    profiler = new Profiler({ sampleInterval: INTERVAL_MS, maxBufferSize: BUFFER_SAMPLES });
    startedMs = performance.now();
  };

  /** Fetches what `ending` has sampled. Its successor is already running, so that sampling has no gap. */
  const fetchFrom = async (ending: Profiler, into: RecordingSession) => {
    const trace = await ending.stop();
    into.charged(() => emitTrace(trace, ending.sampleInterval, into));
  };

  return {
    name: 'js-self-profiling',
    available: constructorOf() !== undefined,
    start(into) {
      session = into;
      try {
        begin();
      } catch {
        const reason = 'call stacks: the page is served without the header "Document-Policy: js-profiling"';
        into.emit({ kind: 'drop', startMs: into.time(performance.now()), count: 0, reason });
      }
    },
    collect() {
      if (profiler === undefined || performance.now() - startedMs < FETCH_EVERY_MS) return;
      const ending = profiler;
      begin();
      void fetchFrom(ending, session!);
    },
    async stop() {
      if (profiler === undefined || session === undefined) return;
      const [ending, into] = [profiler, session];
      profiler = undefined;
      session = undefined;
      await fetchFrom(ending, into);
    },
  };
}
