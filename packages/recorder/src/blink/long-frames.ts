import { RESERVED_PATH } from '@nettle-patch/core';
import type { Capture } from '../page/capture/capture';
import { defined } from '../page/interned';
import type { Lent } from '../page/capture-registry';
import type { RecordingSession } from '../page/session';

/** PerformanceScriptTiming of W3C Long Animation Frames. */
interface ScriptEntry extends PerformanceEntry {
  readonly invoker: string;
  readonly invokerType: string;
  readonly sourceURL: string;
  readonly sourceFunctionName: string;
  readonly sourceCharPosition: number;
  readonly forcedStyleAndLayoutDuration: number;
  readonly pauseDuration: number;
}

/** PerformanceLongAnimationFrameTiming of W3C Long Animation Frames. */
interface FrameEntry extends PerformanceEntry {
  readonly renderStart: number;
  readonly styleAndLayoutStart: number;
  readonly presentationTime?: number;
  readonly blockingDuration: number;
  readonly scripts: readonly ScriptEntry[];
}

function emitScript(script: ScriptEntry, session: RecordingSession): void {
  const { sourceURL, sourceFunctionName, sourceCharPosition } = script;
  const known = sourceURL !== '' && sourceCharPosition >= 0 && !sourceURL.includes(RESERVED_PATH);
  const entered = known
    ? session.tables.functionAtOffset(sourceFunctionName, sourceURL, sourceCharPosition)
    : undefined;
  session.lasted('handler', script.startTime, script.duration, {
    type: script.invokerType,
    invoker: script.invoker.replace(/[?#][^\]]*/, ''),
    forcedMs: session.length(script.forcedStyleAndLayoutDuration),
    ...defined({ function: entered, pauseMs: script.pauseDuration || undefined }),
  });
}

/** Frames over 50 ms with the entries into script that made them long (W3C Long Animation Frames). */
export function longFrames({ observedCapture }: Lent): Capture {
  return observedCapture<FrameEntry>('long-animation-frame', emitFrame);
}

function emitFrame(frame: FrameEntry, session: RecordingSession): void {
  const at = (ms: number | undefined) => (ms ? session.time(ms) : undefined);
  session.lasted('frame', frame.startTime, frame.duration, {
    blockingMs: session.length(frame.blockingDuration),
    ...defined({
      renderStartMs: at(frame.renderStart),
      styleStartMs: at(frame.styleAndLayoutStart),
      presentedMs: at(frame.presentationTime),
    }),
  });
  for (const script of frame.scripts) emitScript(script, session);
}
