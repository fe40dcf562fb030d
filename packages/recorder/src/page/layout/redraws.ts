import type { Capture } from '../capture/capture';
import { elementLabel } from '../element-label';
import { defined } from '../interned';
import type { RecordingSession } from '../session';
import type { ScriptEntryTracker, Entry } from '../wrap/script-entries';
import { markInternal } from '../wrap/internal';
import { COMPARED, Changes, hasChanged, type Change } from './changes';
import type { Mutations } from './mutations';
import type { ProbeSteps } from './probe-steps';
import type { RenderProbe } from './render-probe';

const MAX_PLACES = 8;
const VALUES: MutationObserverInit = {
  subtree: true,
  attributes: true,
  attributeOldValue: true,
  attributeFilter: COMPARED,
};

const sizeOf = ({ nodes, attributes, texts }: Change) => nodes + attributes + texts;

/** For each frame what was changed in the document, whether to another value, and whether anybody could see it. */
export class Redraws implements Capture {
  readonly name = 'redraws';
  readonly available = true;
  #session: RecordingSession | undefined;
  #changes = new Changes();
  readonly #values = new MutationObserver(markInternal((records) => this.#changes.addValues(records)));
  /** Of the frame that is being painted. */
  #drawn: Changes | undefined;

  constructor(
    mutations: Mutations,
    probe: RenderProbe,
    private readonly steps: ProbeSteps,
    private readonly entries: ScriptEntryTracker,
  ) {
    mutations.onWatch((on, passedOver) => {
      this.#changes.more += passedOver;
      if (on) return this.#values.observe(document, VALUES);
      this.#changes.addValues(this.#values.takeRecords());
      this.#values.disconnect();
    });
    mutations.onChange((records) => {
      if (this.#session !== undefined) this.#changes.add(records, entries.latest);
    });
    probe.onLaidOut(() => this.#endFrame());
    probe.onRendered(({ startMs }) => this.#session?.charged('redraws', () => this.#write(startMs)));
  }

  start(session: RecordingSession): void {
    this.#session = session;
    this.#changes = new Changes();
  }

  stop(): void {
    this.#session = undefined;
  }

  /** What has been told is of the frame that is being made; what comes now, of the next. */
  #endFrame(): void {
    const changes = this.#changes;
    changes.addValues(this.#values.takeRecords());
    if (this.#session === undefined || changes.none) return;
    this.#changes = new Changes();
    this.#drawn = changes;
  }

  #isInView({ node }: Change): boolean {
    const element = node instanceof Element ? node : node.parentElement;
    return element !== null && this.steps.isInView(element);
  }

  #write(atMs: number): void {
    const session = this.#session!;
    const drawn = this.#drawn;
    this.#drawn = undefined;
    if (drawn === undefined) return;
    let { more } = drawn;
    const all = drawn.list().sort((a, b) => sizeOf(b) - sizeOf(a));
    const inView = new Set(all.slice(0, MAX_PLACES).filter((change) => this.#isInView(change)));
    const fresh = new Set(all.filter(hasChanged));
    const report = (by: Entry | undefined, changed: boolean) => {
      const changes = all.filter((change) => change.by === by && fresh.has(change) === changed);
      if (changes.length === 0) return;
      const sum = (key: 'nodes' | 'attributes' | 'texts') =>
        changes.reduce((total, change) => total + change[key], 0);
      const [{ node }] = changes as [Change];
      session.happened('redraw', atMs, {
        nodes: sum('nodes'),
        attributes: sum('attributes'),
        texts: sum('texts'),
        changed,
        inView: changes.some((change) => inView.has(change)),
        ...defined({
          more: more > 0 ? more : undefined,
          target: elementLabel(node),
          by: this.entries.idOf(by),
        }),
      });
      more = 0;
    };
    for (const by of new Set(all.map((change) => change.by))) {
      report(by, true);
      report(by, false);
    }
  }
}
