import type { Capture } from '../capture/capture';
import { elementLabel } from '../element-label';
import { defined } from '../interned';
import type { RecordingSession } from '../session';
import { ours } from '../wrap/ours';
import type { Mutations } from './mutations';
import type { ProbeSteps } from './probe-steps';
import type { RenderProbe } from './render-probe';

/** Records of one frame that are compared; beyond it, all is taken to have changed. */
const MOST_RECORDS = 5000;
/** Text of replaced content that is compared. */
const MOST_TEXT = 20_000;
const MOST_PLACES = 8;

/** Attributes that are often written without need, and are short: their values are compared. */
const COMPARED =
  'class title hidden disabled value src href aria-label aria-hidden aria-expanded aria-selected aria-checked aria-pressed'.split(
    ' ',
  );
const VALUES: MutationObserverInit = {
  subtree: true,
  attributes: true,
  attributeOldValue: true,
  attributeFilter: COMPARED,
};

/** What was changed in the document since the last frame. */
class Changes {
  nodes = 0;
  attributes = 0;
  texts = 0;
  readonly #first = new Map<Node, Map<string, string | null>>();
  readonly #replaced = new Map<Node, { removed: Node[]; added: Node[] }>();
  readonly #counts = new Map<Node, number>();
  #records = 0;
  /** An attribute was written whose old value is not known; that it has another now is taken for granted. */
  #incomparable = false;

  get none(): boolean {
    return this.#records === 0;
  }

  add(records: readonly MutationRecord[]): void {
    for (const record of records) {
      const { target, type } = record;
      this.#records++;
      this.#counts.set(target, (this.#counts.get(target) ?? 0) + 1);
      if (type === 'attributes') this.attributes++;
      else if (type === 'characterData') this.texts++;
      else this.nodes += record.addedNodes.length + record.removedNodes.length;
      if (this.#records > MOST_RECORDS) continue;
      if (type === 'childList') this.#replace(record);
      else if (type === 'characterData') this.#remember(target, '', record.oldValue);
      else if (!COMPARED.includes(record.attributeName!)) this.#incomparable = true;
    }
  }

  /** Takes the values that attributes had before they were written. */
  addValues(records: readonly MutationRecord[]): void {
    for (const { target, attributeName, oldValue } of records)
      this.#remember(target, attributeName!, oldValue);
  }

  /** Whether anything has another value now than before. Nothing compared is kept. */
  changed(): boolean {
    if (this.#incomparable || this.#records > MOST_RECORDS) return true;
    for (const [node, values] of this.#first) {
      for (const [name, before] of values) {
        const now = name === '' ? node.nodeValue : (node as Element).getAttribute(name);
        if (now !== before) return true;
      }
    }
    return [...this.#replaced.values()].some(({ removed, added }) => textOf(removed) !== textOf(added));
  }

  /** The nodes with most changes first. */
  places(): Node[] {
    return [...this.#counts].sort((a, b) => b[1] - a[1]).map(([node]) => node);
  }

  #remember(target: Node, name: string, before: string | null): void {
    const values = this.#first.get(target) ?? new Map<string, string | null>();
    if (!values.has(name)) this.#first.set(target, values.set(name, before));
  }

  #replace({ target, addedNodes, removedNodes }: MutationRecord): void {
    const replaced = this.#replaced.get(target) ?? { removed: [], added: [] };
    replaced.removed.push(...removedNodes);
    replaced.added.push(...addedNodes);
    this.#replaced.set(target, replaced);
  }
}

function textOf(nodes: readonly Node[]): string {
  let text = '';
  for (const node of nodes) {
    text += node instanceof Element ? node.outerHTML : (node.nodeValue ?? '');
    if (text.length > MOST_TEXT) return `${text.length} ${Math.random()}`;
  }
  return text;
}

/** For each frame what was changed in the document, whether to another value, and whether anybody could see it. */
export class Redraws implements Capture {
  readonly name = 'redraws';
  readonly available = true;
  #session: RecordingSession | undefined;
  #changes = new Changes();
  readonly #values = new MutationObserver(ours((records) => this.#changes.addValues(records)));
  #drawn: { readonly changes: Changes; readonly inView: boolean } | undefined;

  constructor(
    mutations: Mutations,
    probe: RenderProbe,
    private readonly steps: ProbeSteps,
  ) {
    mutations.onChange((records) => {
      if (this.#session !== undefined) this.#changes.add(records);
    });
    probe.onLaidOut(() => this.#look());
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
    const elements = changes
      .places()
      .flatMap((node) => (node instanceof Element ? node : (node.parentElement ?? [])));
    const inView = elements.slice(0, MOST_PLACES).some((element) => this.steps.isInView(element));
    this.#drawn = { changes, inView };
  }

  #write(atMs: number): void {
    const session = this.#session;
    const drawn = this.#drawn;
    if (session === undefined || drawn === undefined) return;
    this.#drawn = undefined;
    session.charged(() => {
      const { changes, inView } = drawn;
      const { nodes, attributes, texts } = changes;
      const [place] = changes.places();
      session.emit({
        kind: 'redraw',
        thread: session.thread,
        startMs: session.time(atMs),
        nodes,
        attributes,
        texts,
        changed: changes.changed(),
        inView,
        ...defined({ target: place === undefined ? undefined : elementLabel(place) }),
      });
    });
  }
}
