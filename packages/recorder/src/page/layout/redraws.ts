import type { Capture } from '../capture/capture';
import { elementLabel } from '../element-label';
import { defined } from '../interned';
import type { RecordingSession } from '../session';
import type { ScriptEntryTracker } from '../wrap/script-entries';
import { markInternal } from '../wrap/internal';
import { COMPARED, Changes, hasChanged } from './changes';
import type { Mutations } from './mutations';
import type { ProbeSteps } from './probe-steps';
import type { RenderProbe } from './render-probe';

const VALUES: MutationObserverInit = {
  subtree: true,
  attributes: true,
  attributeOldValue: true,
  attributeFilter: COMPARED,
};

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
      this.#changes.add([], undefined, passedOver);
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

  #write(atMs: number): void {
    const drawn = this.#drawn?.list() ?? [];
    this.#drawn = undefined;
    let more = 0;
    for (const [by, written] of drawn.reverse()) {
      // Of those that have no node of their own, it goes with those before.
      more += written.more;
      const fresh = new Set(written.changes.filter(hasChanged));
      for (const changed of [true, false]) {
        const changes = written.changes.filter((change) => fresh.has(change) === changed);
        if (changes.length === 0) continue;
        const sums = { nodes: 0, attributes: 0, texts: 0 };
        let largest = changes[0]!.node;
        let most = 0;
        for (const { node, nodes, attributes, texts } of changes) {
          sums.nodes += nodes;
          sums.attributes += attributes;
          sums.texts += texts;
          const size = nodes + attributes + texts;
          if (size <= most) continue;
          most = size;
          largest = node;
        }
        this.#session!.happened('redraw', atMs, {
          ...sums,
          changed,
          inView: changes.some(({ node }) => this.steps.isInView(node)),
          ...defined({ more: more || undefined, target: elementLabel(largest), by: this.entries.idOf(by) }),
        });
        more = 0;
      }
    }
  }
}
