import type { Entry } from '../wrap/script-entries';

/** Records of one frame that are looked at; those beyond are counted only, so that a large redraw stays cheap. */
const MAX_RECORDS = 128;
/** Of each entry into script, so many are looked at all the same, until it is twice as many in all. */
const MIN_RECORDS = 16;
/** Characters of the text of a tree that is compared: to compare thousands of rows would be felt. */
const MAX_COMPARED = 5000;
/** Trees put in the place of others at one node that are compared. */
const MAX_TREES = 200;

/** Attributes that are often written without need: their values are compared. */
export const COMPARED =
  'class title hidden disabled value src href d points aria-label aria-hidden aria-expanded aria-selected aria-checked aria-pressed'.split(
    ' ',
  );

/** What was done to one node since the last frame. */
export interface Change {
  readonly node: Node;
  nodes: number;
  attributes: number;
  texts: number;
  /** Values before they were written, by attribute; that of a text under ''. */
  readonly before: Map<string, string | null>;
  /** Records of nodes that were put in or taken out. */
  readonly exchanges: Exchange[];
  /** Written in a way that is not compared: that it has another value now is taken for granted. */
  isIncomparable: boolean;
}

/** Of a record: nodes that were put in, and taken out. */
export type Exchange = Readonly<Record<'addedNodes' | 'removedNodes', Iterable<Node>>>;

/** Whether the same was put back as was taken out. Trees too large or too many to be compared count as different. */
function isSameAgain({ exchanges, nodes }: Change): boolean {
  if (nodes > 2 * MAX_TREES) return false;
  const trees = (key: keyof Exchange) => exchanges.flatMap((exchange) => [...exchange[key]]);
  const added = trees('addedNodes');
  const removed = trees('removedNodes');
  return (
    removed.length === added.length &&
    removed.every((root, at) => root.textContent!.length < MAX_COMPARED && root.isEqualNode(added[at]!))
  );
}

/** Whether anything of a node has another value now than before. */
export function hasChanged(change: Change): boolean {
  if (change.isIncomparable) return true;
  for (const [name, before] of change.before) {
    const now = name === '' ? change.node.nodeValue : (change.node as Element).getAttribute(name);
    if (now !== before) return true;
  }
  return !isSameAgain(change);
}

/** What was written while an entry into script was the latest. */
interface Written {
  readonly records: MutationRecord[];
  /** By node. */
  readonly changes: Change[];
  /** Changes that are not looked at. */
  more: number;
}

/**
 * What was changed in the document since the last frame, node by node. What the engine tells is only kept; it is looked
 * at when the list is made, as that can be done when nobody waits for it.
 */
export class Changes {
  readonly #changes = new Map<Node, Change>();
  readonly #written = new Map<Entry | undefined, Written>();
  readonly #values: MutationRecord[] = [];
  #held = 0;

  get none(): boolean {
    return this.#held === 0;
  }

  /**
   * @param by entry into script in which it was written; where there is no room for more of them, it is nobody's
   * @param passedOver changes that the engine was not asked about
   */
  add(records: readonly MutationRecord[], by: Entry | undefined, passedOver = 0): void {
    if (records.length === 0 && passedOver === 0) return;
    const writer = this.#held < 2 * MAX_RECORDS ? by : undefined;
    let written = this.#written.get(writer);
    if (written === undefined) this.#written.set(writer, (written = { records: [], changes: [], more: 0 }));
    const room = Math.max(MAX_RECORDS - this.#held, MIN_RECORDS - written.records.length, 0);
    const kept = records.slice(0, room);
    this.#held += kept.length;
    written.records.push(...kept);
    written.more += records.length - kept.length + passedOver;
  }

  /** Takes the values that attributes had before they were written. */
  addValues(records: readonly MutationRecord[]): void {
    this.#values.push(...records.slice(0, MAX_RECORDS - this.#values.length));
  }

  /**
   * What was written, by entry into script, those that wrote first before the others. A node to which several wrote is of
   * the first of them, so that some may have none.
   */
  list(): [Entry | undefined, Written][] {
    for (const written of this.#written.values()) {
      for (const record of written.records) this.#look(record, written);
    }
    for (const { target, attributeName, oldValue } of this.#values) {
      remember(this.#changes.get(target), attributeName!, oldValue);
    }
    return [...this.#written];
  }

  #look(record: MutationRecord, { changes }: Written): void {
    const { target, type } = record;
    let change = this.#changes.get(target);
    if (change === undefined) {
      change = {
        node: target,
        nodes: 0,
        attributes: 0,
        texts: 0,
        before: new Map(),
        exchanges: [],
        isIncomparable: false,
      };
      this.#changes.set(target, change);
      changes.push(change);
    }
    if (type === 'childList') {
      change.nodes += record.addedNodes.length + record.removedNodes.length;
      change.exchanges.push(record);
    } else if (type === 'characterData') {
      change.texts++;
      remember(change, '', record.oldValue);
    } else {
      change.attributes++;
      const isCut = this.#values.length === MAX_RECORDS;
      if (isCut || !COMPARED.includes(record.attributeName!)) change.isIncomparable = true;
    }
  }
}

function remember(change: Change | undefined, name: string, value: string | null): void {
  if (change?.before.has(name) === false) change.before.set(name, value);
}
