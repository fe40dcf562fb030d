import type { Entry } from '../wrap/script-entries';

/** Records of one frame that are looked at; those beyond are counted only, so that a large redraw stays cheap. */
const MAX_RECORDS = 200;
/** Characters of the text of a tree that is compared: to compare thousands of rows would be felt. */
const MAX_COMPARED = 5000;

/** Attributes that are often written without need: their values are compared. */
export const COMPARED =
  'class title hidden disabled value src href d points aria-label aria-hidden aria-expanded aria-selected aria-checked aria-pressed'.split(
    ' ',
  );

/** What was done to one node since the last frame. */
export interface Change {
  readonly node: Node;
  /** Entry into script that was the latest when it was first seen. */
  readonly by: Entry | undefined;
  nodes: number;
  attributes: number;
  texts: number;
  /** Values before they were written, by attribute; that of a text under ''. */
  readonly before: Map<string, string | null>;
  readonly removed: Node[];
  readonly added: Node[];
  /** Written in a way that is not compared: that it has another value now is taken for granted. */
  isIncomparable: boolean;
}

/** Trees that are too large to be compared count as different. */
function areEqual(removed: readonly Node[], added: readonly Node[]): boolean {
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
  return !areEqual(change.removed, change.added);
}

/** What an engine told, and the entry into script that was the latest then. */
interface ReportedChange {
  readonly records: readonly MutationRecord[];
  readonly by: Entry | undefined;
}

/** At most so many records of a list that holds some already. */
function fitting(records: readonly MutationRecord[], held: number): readonly MutationRecord[] {
  return held + records.length > MAX_RECORDS ? records.slice(0, MAX_RECORDS - held) : records;
}

/**
 * What was changed in the document since the last frame, node by node. What the engine tells is only kept; it is looked
 * at when the list is made, as that can be done when nobody waits for it.
 */
export class Changes {
  readonly #changes = new Map<Node, Change>();
  readonly #reported: ReportedChange[] = [];
  readonly #values: MutationRecord[] = [];
  #records = 0;
  /** Records that are not looked at. */
  more = 0;

  get none(): boolean {
    return this.#records === 0;
  }

  /** @param by entry into script in which it was written */
  add(records: readonly MutationRecord[], by: Entry | undefined): void {
    const kept = fitting(records, this.#records);
    this.#records += kept.length;
    this.more += records.length - kept.length;
    if (kept.length > 0) this.#reported.push({ records: kept, by });
  }

  /** Takes the values that attributes had before they were written. */
  addValues(records: readonly MutationRecord[]): void {
    this.#values.push(...fitting(records, this.#values.length));
  }

  list(): Change[] {
    for (const { records, by } of this.#reported) for (const record of records) this.#look(record, by);
    for (const { target, attributeName, oldValue } of this.#values) {
      remember(this.#of(target, undefined), attributeName!, oldValue);
    }
    const list = [...this.#changes.values()];
    const isCut = this.#values.length === MAX_RECORDS;
    if (isCut) for (const change of list) change.isIncomparable ||= change.attributes > 0;
    return list;
  }

  #look(record: MutationRecord, by: Entry | undefined): void {
    const { target, type } = record;
    const change = this.#of(target, by);
    if (type === 'childList') {
      const { addedNodes, removedNodes } = record;
      change.nodes += addedNodes.length + removedNodes.length;
      change.removed.push(...removedNodes);
      change.added.push(...addedNodes);
    } else if (type === 'characterData') {
      change.texts++;
      remember(change, '', record.oldValue);
    } else {
      change.attributes++;
      if (!COMPARED.includes(record.attributeName!)) change.isIncomparable = true;
    }
  }

  #of(node: Node, by: Entry | undefined): Change {
    let change = this.#changes.get(node);
    if (change === undefined) {
      change = {
        node,
        by,
        nodes: 0,
        attributes: 0,
        texts: 0,
        before: new Map(),
        removed: [],
        added: [],
        isIncomparable: false,
      };
      this.#changes.set(node, change);
    }
    return change;
  }
}

function remember({ before }: Change, name: string, value: string | null): void {
  if (!before.has(name)) before.set(name, value);
}
