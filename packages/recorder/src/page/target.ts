import { FORMAT_NAME, FORMAT_VERSION, type Header, type Target } from '@nettle-patch/core';
import { plainAddress } from './address';
import type { Capture } from './capture/capture';
import { measureClockStep } from './clock-step';
import { deviceName, engineName } from './engine';
import type { Recorder } from './recorder';
import { refreshInterval } from './refresh';

const LONGEST_TITLE = 200;

let listed: readonly Capture[] = [];

/** Names the captures a target tells of itself. */
export function listCaptures(captures: readonly Capture[]): void {
  listed = captures;
}

function capabilities(): { available: string[]; missing: string[] } {
  const names = (available: boolean) =>
    listed.filter((capture) => capture.available === available).map(({ name }) => name);
  return { available: names(true), missing: names(false) };
}

/** The page as it presents itself to the interface. */
export function describeTarget(id: string, recorder: Recorder): Target {
  const { state } = recorder;
  return {
    id,
    title: document.title.slice(0, LONGEST_TITLE),
    url: plainAddress(location.href),
    engine: engineName(),
    device: deviceName(),
    ...capabilities(),
    visible: document.visibilityState === 'visible',
    recording: state ? { id: state.recordingId, state: state.state, elapsedMs: state.elapsedMs } : null,
  };
}

/** The header of a recording of this page. */
export function describeRecording(id: string, startUp: boolean, originMs: number): Header {
  const title = document.title.slice(0, LONGEST_TITLE);
  return {
    kind: 'header',
    format: FORMAT_NAME,
    version: FORMAT_VERSION,
    id,
    startedAt: new Date(performance.timeOrigin + originMs).toISOString(),
    title,
    mode: 'everyday',
    startUp,
    clockStepMs: measureClockStep(),
    refreshMs: refreshInterval(),
    target: { title, url: plainAddress(location.href), engine: engineName(), device: deviceName() },
    ...capabilities(),
  };
}
