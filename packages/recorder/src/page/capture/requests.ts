import { plainAddress } from '../address';
import { defined } from '../interned';
import type { Capture } from './capture';
import type { RecordingSession } from '../session';
import { CallSites } from '../wrap/call-site';
import { isOfApp } from '../wrap/own-requests';
import type { ScriptEntryTracker } from '../wrap/script-entries';
import { observedCapture } from './observed';
import { now } from '../natives';

interface Asked {
  readonly atMs: number;
  readonly by: number | undefined;
  readonly functionId: number | undefined;
}

/** Requests that script asks for at once may wait for their turn. */
const MAX_ASKED = 500;

/** Who asked for each request that script makes, until the browser tells of the request. */
export class Initiators {
  #asked: { readonly url: string; readonly asked: Asked }[] = [];
  #sites: CallSites | undefined;

  constructor(private readonly entries: () => ScriptEntryTracker) {}

  start(session: RecordingSession): void {
    this.#sites = new CallSites(session);
    this.#asked = [];
  }

  stop(): void {
    this.#sites = undefined;
  }

  /** Notes that script asks for an address now. The address is kept only until the browser tells of it. */
  ask(url: string): void {
    if (this.#sites === undefined) return;
    const asked = {
      atMs: now(),
      by: this.entries().currentId(),
      functionId: this.#sites.current(),
    };
    this.#asked.push({ url: new URL(url, document.baseURI).href, asked });
    if (this.#asked.length > MAX_ASKED) this.#asked.shift();
  }

  /** Who asked for a request that began at a time. */
  take(url: string, startMs: number): Asked | undefined {
    const at = this.#asked.findIndex(({ url: of, asked }) => of === url && asked.atMs <= startMs + 1);
    return at < 0 ? undefined : this.#asked.splice(at, 1)[0]!.asked;
  }
}

/** What the browser tells of requests, of the page's own (W3C Navigation Timing) or of those it made (Resource Timing). */
function resourceTiming(type: 'navigation' | 'resource', initiators: Initiators): Capture {
  return observedCapture<PerformanceResourceTiming>(type, (entry, session) => {
    if (!isOfApp(entry)) return;
    const asked = initiators.take(entry.name, entry.startTime);
    session.lasted('request', entry.startTime, entry.responseEnd - entry.startTime, {
      url: plainAddress(entry.name),
      initiator: entry.initiatorType,
      ...defined({
        responseStartMs: entry.responseStart > 0 ? session.time(entry.responseStart) : undefined,
        bytes: entry.transferSize > 0 ? entry.transferSize : undefined,
        status: entry.responseStatus || undefined,
        by: asked?.by,
        function: asked?.functionId,
      }),
    });
  });
}

/** Requests: when, for what, how large and asked for by whom; never their content. */
export function requests(initiators: Initiators): Capture[] {
  const resources = resourceTiming('resource', initiators);
  return [
    resourceTiming('navigation', initiators),
    {
      ...resources,
      start(session) {
        initiators.start(session);
        resources.start(session);
      },
      stop() {
        initiators.stop();
        return resources.stop();
      },
    },
  ];
}
