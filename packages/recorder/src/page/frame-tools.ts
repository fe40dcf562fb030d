import type { nameByText } from './element-label';
import type { Host } from './host';
import type { pageCaptures } from './page-captures';
import type { RecordingSession } from './session';
import type { markInternal, overseeInto } from './wrap/internal';

/** Of the recorder in a frame, what makes it a part of another. */
export interface FrameTools {
  readonly pageCaptures: typeof pageCaptures;
  readonly RecordingSession: typeof RecordingSession;
  readonly overseeInto: typeof overseeInto;
  readonly markInternal: typeof markInternal;
  readonly nameByText: typeof nameByText;
}

export type StartFrame = (host: Host, tools: FrameTools) => void;
