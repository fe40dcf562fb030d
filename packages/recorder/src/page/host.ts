import type { ToSender, WorkerRecording } from '../messages';
import type { Capture } from './capture/capture';
import type { CallEventBuffer } from './exact/call-event-buffer';
import type { Register } from './exact/provided';
import type { TimedCalls } from './exact/timed-calls';
import type { RenderProbe } from './layout/render-probe';
import type { Lent } from './capture-registry';

export type WorkerBegan = Extract<ToSender, { type: 'worker-began' }>;

/** What rewritten scripts need of a window's recorder. */
export interface RewrittenTools {
  readonly ring: CallEventBuffer;
  readonly registerScript: Register;
  readonly tell: Lent['tell'];
  /** Has something recorded with the page. @returns ends it */
  takeIn(part: Capture): () => void;
  /** Times the calls of all windows of the page, where its scripts come rewritten. */
  timed?: TimedCalls;
}

/** What the recorder of a page lends to its frames of the same origin, which are recorded as parts of it. */
export interface Host extends RewrittenTools {
  /** `performance.timeOrigin` of the page: each window has a clock of its own. */
  readonly clockOrigin: number;
  readonly probe: RenderProbe;
  /** Documents that are drawn together. */
  readonly documents: Document[];
  /** A number that no other frame or worker of the page has. */
  nextNumber(): number;
  began(worker: WorkerBegan): void;
  isNamedByText(): boolean;
  /** What workers are to record now. */
  running(): WorkerRecording | undefined;
}
