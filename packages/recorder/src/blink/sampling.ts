import type { ProfilerTrace } from '../messages';
import type { Capture } from '../page/capture/capture';
import { now } from '../page/natives';
import type { Lent } from '../page/capture-registry';
import type { RecordingSession } from '../page/session';

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

/** Call stacks every 10 ms (WICG JS Self-Profiling). */
export function sampling({ tell, isExact, failed }: Lent): Capture {
  let session: RecordingSession | undefined;
  let profiler: Profiler | undefined;
  let startedMs = 0;

  const begin = () => {
    const Profiler = constructorOf()!;
    profiler = new Profiler({ sampleInterval: INTERVAL_MS, maxBufferSize: BUFFER_SAMPLES });
    startedMs = now();
  };

  /** Fetches what `ending` has sampled. Its successor is already running, so that sampling has no gap. */
  const fetchFrom = async (ending: Profiler, into: RecordingSession) => {
    try {
      const trace = await ending.stop();
      into.charged('samples', () => tell(into, { type: 'trace', intervalMs: ending.sampleInterval, trace }));
    } catch (error) {
      failed(error);
    }
  };

  return {
    name: 'js-self-profiling',
    available: constructorOf() !== undefined,
    start(into) {
      if (isExact) return;
      session = into;
      try {
        begin();
      } catch {
        const reason = 'call stacks: no header "Document-Policy: js-profiling"';
        into.emit({ kind: 'drop', startMs: into.time(now()), count: 0, reason });
      }
    },
    collect() {
      if (profiler === undefined || now() - startedMs < FETCH_EVERY_MS) return;
      const ending = profiler;
      begin();
      void fetchFrom(ending, session!);
    },
    async stop(leaving) {
      if (profiler === undefined || session === undefined) return;
      const [ending, into] = [profiler, session];
      profiler = undefined;
      session = undefined;
      // A page that runs script once it is left does not come back from the browser's cache.
      if (leaving) void ending.stop();
      else await fetchFrom(ending, into);
    },
  };
}
