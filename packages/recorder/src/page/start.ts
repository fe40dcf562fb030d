import { SENDER_PATH, writeBatch, THREADS_A_PAGE } from '@nettle-patch/core';
import type { FromSender, WorkerRecording } from '../messages';
import { ExactCalls } from './exact/exact-calls';
import { pageCaptures, type OwnLent } from './page-captures';
import { takeArmedRecording, type Armed } from './next-load';
import { isNamedByText, nameByText } from './element-label';
import type { StartFrame } from './frame-tools';
import type { Host } from './host';
import { listen, now, setTimeout } from './natives';
import { hasRecorder, installed, shared } from './shared';
import { sharesMemory } from './shared-memory';
import { Recorder, type OutgoingBatch } from './recorder';
import { measureRefresh } from './refresh';
import { RecordingSession } from './session';
import { post, startSenderWorker } from './sender-worker';
import { describeTarget } from './target';
import { markInternal, overseeInto } from './wrap/internal';
import { wrapWorkers } from './wrap/page-workers';

/** What a page has kept for the next is there within this. */
const KEPT_MS = 300;

function randomId(): string {
  return crypto.getRandomValues(new Uint32Array(4)).join('-');
}

/** Sends the last rows of a page that is going; the browser sees to it that they leave. */
function sendBeacon(base: URL, secret: string, targetId: string, batch: OutgoingBatch): void {
  const { rows, page: _page, ...rest } = batch;
  const lines = rows.map((row) => `${JSON.stringify(row)}\n`).join('');
  const body = writeBatch({ type: 'rows', targetId, ...rest }, lines);
  navigator.sendBeacon(new URL(`rows?secret=${encodeURIComponent(secret)}`, base), body);
}

/** Installs the recorder in a page that the proxy gave it to, and takes its own element out of the document again. */
export function startPage(): void {
  const element = document.currentScript as HTMLScriptElement | null;
  if (element === null) return;
  const { src, dataset } = element;
  element.remove();
  nameByText(dataset['labels'] === 'texts');
  startRecorder(src, dataset['mode'] === 'exact', dataset['secret'])?.(dataset['secret'] ?? '');
}

/**
 * Installs the recorder in a page, once.
 * @param scriptUrl address of one of the recorder's files, at the server it is to tell
 * @param secret that of the page where it is known already, so that its workers can be recorded
 * @returns connects it, once there is a secret; undefined where it is there already, is that of the page around this frame,
 * or the page allows no worker
 */
export function startRecorder(
  scriptUrl: string,
  isExact: boolean,
  secret = '',
): ((secret: string) => void) | undefined {
  if (hasRecorder(globalThis)) return;
  installed();
  const base = new URL(scriptUrl);
  const lend = (host: Host) => {
    shared.hosts.set(self, host);
    shared.rewritten = host;
    if (base.origin === location.origin) wrapWorkers(secret, host);
  };
  const above = parent === self ? undefined : (shared.hosts.get(parent) as Host | undefined);
  const startFrame = shared.startFrame as StartFrame | undefined;
  if (above && startFrame) {
    lend(above);
    startFrame(above, { pageCaptures, RecordingSession, overseeInto, markInternal, nameByText });
    return;
  }
  const beganMs = now();
  const worker = startSenderWorker(new URL(SENDER_PATH, scriptUrl).href);
  if (worker === undefined) return;
  const targetId = randomId();
  const tell: OwnLent['tell'] = ({ id, thread, originMs }, about, transfer) =>
    post(worker, { recordingId: id, thread, originMs, ...about }, transfer);
  const exact = new ExactCalls(
    (session, chunk) => tell(session, { type: 'calls', ...chunk }, [chunk.ids.buffer, chunk.timesMs.buffer]),
    isExact,
  );
  const { ring } = exact;
  const { captures, probe, documents } = pageCaptures(ring, { tell, isExact });
  const armed = takeArmedRecording();
  let recording: WorkerRecording | undefined;
  let latestNumber = (armed?.[4] ?? 0) * THREADS_A_PAGE;
  const host: Host = {
    clockOrigin: performance.timeOrigin,
    ring,
    registerScript: (firstId, registration) => post(worker, { type: 'register', firstId, registration }),
    tell,
    probe,
    documents,
    nextNumber: () => ++latestNumber,
    began: (began) => post(worker, began, [began.port]),
    takeIn: (part) => recorder.takeIn(part),
    isNamedByText,
    running: () => recording,
  };
  lend(host);
  const sendBatch = (batch: OutgoingBatch) => post(worker, { type: 'batch', ...batch });
  const recorder = new Recorder(
    // The ring also takes forced layout, and is switched on before all others.
    [exact, ...captures],
    sendBatch,
    () => introduce(),
    (running) => {
      recording = running && {
        recordingId: running.id,
        originEpochMs: performance.timeOrigin + running.originMs,
      };
      post(worker, { type: 'workers', recording });
    },
    (tick) => post(worker, { type: 'tick', timeOrigin: performance.timeOrigin, ...tick }),
  );
  const introduce = markInternal(() =>
    post(worker, { type: 'target', target: describeTarget(targetId, recorder.capabilities, recorder.state) }),
  );

  introduce();
  if (sharesMemory()) post(worker, { type: 'open-calls', open: ring.open });
  listen(
    worker,
    'message',
    markInternal(({ data }: MessageEvent<FromSender>) => {
      if (data.type === 'command') recorder.obey(data.command);
      else if (data.type === 'sent-more') recorder.sentMore(data.recordingId);
      else ring.giveBack(data);
    }),
  );

  const goOn = (armed: Armed | undefined, installMs?: number): void => {
    if (armed === undefined) return;
    recorder.start(armed, installMs);
    if (armed[6]) recorder.obey({ type: 'pause', targetId, recordingId: armed[0] });
  };
  goOn(armed, now() - beganMs);

  listen(
    globalThis,
    'pagehide',
    markInternal(() => {
      const last = recorder.leave();
      if (last === undefined) return;
      sendBatch(last);
      sendBeacon(base, secret, targetId, last);
    }),
  );
  listen(
    globalThis,
    'pageshow',
    // What the page before has kept may come from another process, a moment later.
    markInternal(
      (event) =>
        (event as PageTransitionEvent).persisted &&
        setTimeout(
          markInternal(() => goOn(takeArmedRecording())),
          KEPT_MS,
        ),
    ),
  );
  listen(
    globalThis,
    'load',
    markInternal(() => {
      introduce();
      measureRefresh();
    }),
  );
  listen(document, 'visibilitychange', introduce);
  return (given) => {
    secret = given;
    post(worker, { type: 'connect', secret, scriptUrl });
  };
}
