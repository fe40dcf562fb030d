import type { Capture } from '../capture/capture';
import { elementLabel } from '../element-label';
import { defined } from '../interned';
import type { RecordingSession } from '../session';
import type { Entries } from '../wrap/entries';
import { ours } from '../wrap/ours';
import { COMPARED, Changes, hasChanged, type Change } from './changes';
import type { Mutations } from './mutations';
import type { ProbeSteps } from './probe-steps';
import type { RenderProbe } from './render-probe';

const MOST_PLACES = 8;
const VALUES: MutationObserverInit = {
  subtree: true,
  attributes: true,
  attributeOldValue: true,
  attributeFilter: COMPARED,
};

const sizeOf = ({ nodes, attributes, texts }: Change) => nodes + attributes + texts;

/** What was written for one frame, the most first, and which of it lies in view, as far as was looked. */
interface Drawn {
  readonly changes: readonly Change[];
  readonly inView: ReadonlySet<Change>;
  /** Changes that were not looked at. */
  readonly more: number;
}

/** For each frame what was changed in the document, whether to another value, and whether anybody could see it. */
export class Redraws implements Capture {
  readonly name = 'redraws';
  readonly available = true;
  #session: RecordingSession | undefined;
  #changes = new Changes();
  readonly #values = new MutationObserver(ours((records) => this.#changes.addValues(records)));
  #drawn: Drawn | undefined;

  constructor(
    mutations: Mutations,
    probe: RenderProbe,
    private readonly steps: ProbeSteps,
    entries: Entries,
  ) {
    mutations.onChange((records) => {
      const add = () => this.#changes.add(records, entries.latestCallback);
      this.#session?.charged('changes', add);
    });
    probe.onLaidOut(() => this.#session?.charged('changes', () => this.#look()));
    probe.onRendered(({ startMs }) => this.#write(startMs));
  }

  start(session: RecordingSession): void {
    this.#session = session;
    this.#changes = new Changes();
    this.#values.observe(document, VALUES);
  }

  stop(): void {
    this.#values.disconnect();
    this.#session = undefined;
  }

  #look(): void {
    const changes = this.#changes;
    changes.addValues(this.#values.takeRecords());
    this.#drawn = undefined;
    if (this.#session === undefined || changes.none) return;
    this.#changes = new Changes();
    const all = changes.list().sort((a, b) => sizeOf(b) - sizeOf(a));
    const inView = new Set(all.slice(0, MOST_PLACES).filter((change) => this.#isInView(change)));
    this.#drawn = { changes: all, inView, more: changes.more };
  }

  #isInView({ node }: Change): boolean {
    const element = node instanceof Element ? node : node.parentElement;
    return element !== null && this.steps.isInView(element);
  }

  #write(atMs: number): void {
    const session = this.#session;
    const drawn = this.#drawn;
    this.#drawn = undefined;
    if (session === undefined || drawn === undefined) return;
    session.charged('redraws', () => {
      let { more } = drawn;
      const fresh = new Set(drawn.changes.filter(hasChanged));
      for (const changed of [true, false]) {
        const changes = drawn.changes.filter((change) => fresh.has(change) === changed);
        if (changes.length === 0) continue;
        const sum = (key: 'nodes' | 'attributes' | 'texts') =>
          changes.reduce((total, change) => total + change[key], 0);
        const [{ node, by }] = changes as [Change];
        session.emit({
          kind: 'redraw',
          thread: session.thread,
          startMs: session.time(atMs),
          nodes: sum('nodes'),
          attributes: sum('attributes'),
          texts: sum('texts'),
          changed,
          inView: changes.some((change) => drawn.inView.has(change)),
          ...defined({
            more: more > 0 ? more : undefined,
            target: elementLabel(node),
            function: typeof by === 'function' ? session.tables.functionLike(by, by.name) : undefined,
          }),
        });
        more = 0;
      }
    });
  }
}
