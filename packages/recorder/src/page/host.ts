import type { WorkerRecording } from '../messages';
import type { Capture } from './capture/capture';
import type { nameByText } from './element-label';
import type { CallEventBuffer } from './exact/call-event-buffer';
import type { Register } from './exact/provided';
import type { RenderProbe } from './layout/render-probe';
import type { pageCaptures } from './page-captures';
import type { RecordingSession } from './session';
import type { markInternal, overseeInto } from './wrap/internal';
import type { WorkerBegan } from './wrap/page-workers';

/** What the recorder of a page lends to its frames of the same origin, which are recorded as parts of it. */
export interface Host {
  /** `performance.timeOrigin` of the page: each window has a clock of its own. */
  readonly clockOrigin: number;
  readonly ring: CallEventBuffer;
  readonly registerScript: Register;
  readonly probe: RenderProbe;
  /** Documents that are drawn together. */
  readonly documents: Document[];
  /** A number that no other frame or worker of the page has. */
  nextNumber(): number;
  began(worker: WorkerBegan): void;
  isNamedByText(): boolean;
  /** What workers are to record now. */
  running(): WorkerRecording | undefined;
  /** @returns ends it, when the frame goes */
  takeIn(part: Capture): () => void;
}

/** Of the recorder in a frame, what makes it a part of another. */
export interface FrameTools {
  readonly pageCaptures: typeof pageCaptures;
  readonly RecordingSession: typeof RecordingSession;
  readonly overseeInto: typeof overseeInto;
  readonly markInternal: typeof markInternal;
  readonly nameByText: typeof nameByText;
}

export type StartFrame = (host: Host, tools: FrameTools) => void;
