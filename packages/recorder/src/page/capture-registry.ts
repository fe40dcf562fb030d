import type { Capture } from './capture/capture';
import type { observedCapture } from './capture/observed';
import type { elementLabel } from './element-label';
import type { framesElsewhere } from './frames-elsewhere';
import type { RenderProbe } from './layout/render-probe';
import type { NextTask } from './next-task';
import type { refreshInterval } from './refresh';
import type { ScriptEntryTracker } from './wrap/script-entries';
import type { failed, markInternal } from './wrap/internal';
import type { OfThread, ToSender } from '../messages';
import type { RecordingSession } from './session';

/** What the recorder lends to captures that are in files of their own. */
export interface Lent {
  readonly probe: RenderProbe;
  readonly entries: ScriptEntryTracker;
  readonly elementLabel: typeof elementLabel;
  readonly NextTask: typeof NextTask;
  readonly markInternal: typeof markInternal;
  readonly failed: typeof failed;
  readonly framesElsewhere: typeof framesElsewhere;
  readonly observedCapture: typeof observedCapture;
  readonly refreshInterval: typeof refreshInterval;
  /** Tells the sender something about the thread of a session. */
  tell(session: RecordingSession, about: AboutThread, transfer?: Transferable[]): void;
  /** Whether exact calls are recorded: samples are not wanted then, as both together cost more and tell no more. */
  readonly isExact: boolean;
}

type Unaddressed<Message> = Message extends OfThread ? Omit<Message, keyof OfThread> : never;

/** A message about a thread, but for which it is. */
export type AboutThread = Unaddressed<ToSender>;

type Make = (lent: Lent) => Capture;

/** Where a script that comes before the recorder leaves captures for it. */
const OFFERED = Symbol.for('nettle-patch captures');
const scope = globalThis as { [OFFERED]?: Make[] };

/** Offers a capture to the recorder, which comes after this and takes what is there. */
export function registerCapture(make: Make): void {
  (scope[OFFERED] ??= []).push(make);
}

/** What has been offered; it is offered once. */
export function takeRegistered(lent: Lent): Capture[] {
  const offered = scope[OFFERED] ?? [];
  Reflect.deleteProperty(scope, OFFERED);
  return offered.map((make) => make(lent));
}
