import type { Capture } from '../page/capture/capture';
import type { Lent } from '../page/capture-registry';

interface Shift extends PerformanceEntry {
  readonly value: number;
  readonly hadRecentInput: boolean;
}

/** Moves of content nobody asked for (W3C Layout Instability). */
export function shifts({ observedCapture }: Lent): Capture {
  return observedCapture<Shift>('layout-shift', (entry, session) => {
    if (entry.hadRecentInput) return;
    session.happened('state', entry.startTime, { type: 'shift', value: entry.value.toFixed(4) });
  });
}
