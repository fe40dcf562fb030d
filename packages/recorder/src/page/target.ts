import type { Target } from '@nettle-patch/core';
import type { PageHeader, PageTarget } from '../messages';
import { plainAddress } from './address';
import type { Capture } from './capture/capture';
import { framesElsewhere } from './frames-elsewhere';
import { refreshInterval } from './refresh';

const LARGE_SCREEN_PX = 1400;

const isSmallAndTouched = () => navigator.maxTouchPoints > 1 && screen.width < LARGE_SCREEN_PX;

/** Names of the sources that this page can and cannot give. */
export interface Capabilities {
  readonly available: string[];
  readonly missing: string[];
}

export function capabilitiesOf(captures: readonly Capture[]): Capabilities {
  const names = (available: boolean) =>
    captures.filter((capture) => capture.available === available).map(({ name }) => name);
  return { available: names(true), missing: names(false) };
}

/** The page as it presents itself to the interface. */
export function describeTarget(
  id: string,
  capabilities: Capabilities,
  recording: Target['recording'],
): PageTarget {
  return {
    id,
    title: document.title,
    url: plainAddress(location.href),
    isSmallAndTouched: isSmallAndTouched(),
    ...capabilities,
    visible: document.visibilityState === 'visible',
    refreshMs: refreshInterval(),
    loadedFrames: framesElsewhere(),
    loadedFiles: (performance.getEntriesByType('resource') as PerformanceResourceTiming[]).map(
      ({ initiatorType, name }) => initiatorType + name,
    ),
    recording,
  };
}

/** What this page tells for the header of a recording. */
export function describeRecording(
  id: string,
  capabilities: Capabilities,
  startUp: boolean,
  originMs: number,
): PageHeader {
  return { kind: 'header', id, startUp, originEpochMs: performance.timeOrigin + originMs, ...capabilities };
}
