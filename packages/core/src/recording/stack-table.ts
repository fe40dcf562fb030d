import { NO_STACK } from '../format/packed-samples';
import { copyInto } from './typed-arrays';

const INITIAL_CAPACITY = 64;
const NOT_GIVEN = -1;
const EMPTY = -1;

/** A table of stacks as it is handed to another thread. */
export interface StackColumns {
  readonly functions: Int32Array;
  readonly parents: Int32Array;
  /** Ids that rows gave, or -1. */
  readonly rowIds: Int32Array;
  /** Lines and columns at which they stood, from 1, or 0. */
  readonly lines: Int32Array;
  readonly columns: Int32Array;
}

/** Where a function stood when it was on a stack; 0 where that is not known. */
export interface StackPosition {
  /** From 1, in the original file of the function, or else in the script as it ran. */
  readonly line: number;
  readonly column: number;
}

const NOWHERE: StackPosition = { line: 0, column: 0 };

/**
 * Call stacks, each as its innermost function and the stack of its caller. Stacks are numbered from 0 in the order
 * they are met, callers before what they call; the ids that rows give them are kept beside.
 */
export class StackTable {
  #functions = new Int32Array(INITIAL_CAPACITY);
  #parents = new Int32Array(INITIAL_CAPACITY);
  #rowIds = new Int32Array(INITIAL_CAPACITY);
  #lines = new Int32Array(INITIAL_CAPACITY);
  #columns = new Int32Array(INITIAL_CAPACITY);
  /** Open-addressing hash table of stacks by caller and function. */
  #buckets = new Int32Array(INITIAL_CAPACITY * 4).fill(EMPTY);
  /** For each stack the one that was called from it last: most are called again. */
  #latest = new Int32Array(INITIAL_CAPACITY).fill(EMPTY);
  #length = 0;
  #knowsLines = false;
  readonly #byRowId = new Map<number, number>();

  static fromColumns({ functions, parents, rowIds, lines, columns }: StackColumns): StackTable {
    const table = new StackTable();
    for (let stack = 0; stack < functions.length; stack++) {
      table.#append(functions[stack]!, parents[stack]!, rowIds[stack]!, {
        line: lines[stack]!,
        column: columns[stack]!,
      });
      if (rowIds[stack] !== NOT_GIVEN) table.#byRowId.set(rowIds[stack]!, stack);
    }
    return table;
  }

  columns(): StackColumns {
    return {
      functions: this.#functions.slice(0, this.#length),
      parents: this.#parents.slice(0, this.#length),
      rowIds: this.#rowIds.slice(0, this.#length),
      lines: this.#lines.slice(0, this.#length),
      columns: this.#columns.slice(0, this.#length),
    };
  }

  get length(): number {
    return this.#length;
  }

  /** Adds a stack that a row gives. Its caller must be there already, which rules out circles. */
  add(rowId: number, functionId: number, parentRowId?: number, position = NOWHERE): void {
    const parent = parentRowId === undefined ? NO_STACK : this.#byRowId.get(parentRowId)!;
    this.#byRowId.set(rowId, this.#append(functionId, parent, rowId, position));
  }

  /** The stack a row means by an id, or undefined. */
  ofRow(rowId: number): number | undefined {
    return this.#byRowId.get(rowId);
  }

  /** The id that a row gave a stack. */
  rowIdOf(stack: number): number {
    return this.#rowIds[stack]!;
  }

  /** Stacks that rows gave, in their order. */
  given(): Iterable<number> {
    return this.#byRowId.values();
  }

  /**
   * The stack of a call of a function from a stack, or from NO_STACK, of which no line is known; undefined where there is
   * none yet.
   */
  find(parent: number, functionId: number): number | undefined {
    const likely = parent < 0 ? EMPTY : this.#latest[parent]!;
    if (likely !== EMPTY && this.#functions[likely] === functionId) return likely;
    const stack = this.#lookUp(parent, functionId);
    if (stack === EMPTY) return undefined;
    if (parent >= 0) this.#latest[parent] = stack;
    return stack;
  }

  /** The same, which is added where there is none yet. */
  calledFrom(parent: number, functionId: number): number {
    return this.find(parent, functionId) ?? this.#append(functionId, parent, NOT_GIVEN);
  }

  #lookUp(parent: number, functionId: number): number {
    const mask = this.#buckets.length - 1;
    for (let at = hashOf(parent, functionId) & mask; ; at = (at + 1) & mask) {
      const stack = this.#buckets[at]!;
      if (stack === EMPTY || (this.#functions[stack] === functionId && this.#parents[stack] === parent))
        return stack;
    }
  }

  /** Innermost function of a stack. */
  functionOf(stack: number): number {
    return this.#functions[stack]!;
  }

  /** Stack of the caller, or NO_STACK. */
  parentOf(stack: number): number {
    return this.#parents[stack]!;
  }

  /** Whether the line is known at which the function of any of them stood. */
  get knowsLines(): boolean {
    return this.#knowsLines;
  }

  /** Line at which the innermost function stood, from 1; 0 where that is not known. */
  lineOf(stack: number): number {
    return this.#lines[stack]!;
  }

  /** Column at which it stood, from 1; 0 where that is not known. */
  columnOf(stack: number): number {
    return this.#columns[stack]!;
  }

  /** Functions of a stack from the innermost outwards. */
  *inward(stack: number): Generator<number> {
    for (let at = stack; at !== NO_STACK; at = this.parentOf(at)) yield this.functionOf(at);
  }

  /** Functions of a stack from the outermost inwards. */
  path(stack: number): number[] {
    return [...this.inward(stack)].reverse();
  }

  #append(functionId: number, parent: number, rowId: number, { line, column } = NOWHERE): number {
    if (this.#length === this.#functions.length) this.#grow();
    const stack = this.#length++;
    this.#functions[stack] = functionId;
    this.#parents[stack] = parent;
    this.#rowIds[stack] = rowId;
    this.#lines[stack] = line;
    if (line > 0) this.#knowsLines = true;
    this.#columns[stack] = column;
    if (line === 0) this.#place(stack);
    return stack;
  }

  #place(stack: number): void {
    const mask = this.#buckets.length - 1;
    let at = hashOf(this.#parents[stack]!, this.#functions[stack]!) & mask;
    while (this.#buckets[at] !== EMPTY) at = (at + 1) & mask;
    this.#buckets[at] = stack;
  }

  #grow(): void {
    const capacity = this.#functions.length * 2;
    this.#functions = copyInto(new Int32Array(capacity), this.#functions);
    this.#parents = copyInto(new Int32Array(capacity), this.#parents);
    this.#rowIds = copyInto(new Int32Array(capacity), this.#rowIds);
    this.#lines = copyInto(new Int32Array(capacity), this.#lines);
    this.#columns = copyInto(new Int32Array(capacity), this.#columns);
    this.#latest = copyInto(new Int32Array(capacity).fill(EMPTY), this.#latest);
    this.#buckets = new Int32Array(capacity * 4).fill(EMPTY);
    for (let stack = 0; stack < this.#length; stack++) if (this.#lines[stack] === 0) this.#place(stack);
  }
}

/** Multiplicative hashing (Knuth, The Art of Computer Programming, volume 3, section 6.4). */
function hashOf(parent: number, functionId: number): number {
  const mixed = Math.imul(parent + 1, 0x9e3779b1) ^ Math.imul(functionId + 1, 0x85ebca6b);
  return (mixed ^ (mixed >>> 15)) >>> 0;
}
