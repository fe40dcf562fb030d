import { fromBase64, toBase64 } from '../format/base64';
import { VarintReader, VarintWriter } from '../format/varint';

/** What a rewritten script tells of itself when it runs, as compact as it must be to stand in its head. */
export interface ScriptRegistration {
  /** Address of the script, as a path of the app's origin or whole. */
  readonly url: string;
  /** Paths of original sources. */
  readonly files: readonly string[];
  /**
   * One entry a function, whose id is the number the script was registered with plus its place here: name, index
   * of its file, line and column in it from 1, and whether it is a library's.
   */
  readonly functions: readonly (readonly [
    name: string,
    file: number,
    line: number,
    column: number,
    library: 0 | 1,
  ])[];
  /**
   * In fine mode, positions inside of functions, whose ids follow those of the functions: packed by `packPositions`.
   */
  readonly positions?: string;
  /** Added by the page: index of the function whose calls, and all that they call, are recorded exactly. */
  readonly closer?: number;
  /** The place that this function was looked for by; the last of all fields. */
  readonly lookedFor?: string;
}

/** A position inside of a function. */
export interface ScriptPosition {
  /** Index of the function among those of the registration. */
  readonly functionIndex: number;
  /** Line and column from 1, in the file of the function. */
  readonly line: number;
  readonly column: number;
}

const LOOKED_FOR = /"lookedFor":("(?:[^"\\]|\\.)*")\}$/;

/** The place of the function that is looked at closer, where a registration says so. */
export function lookedForIn(registration: string): string | undefined {
  const found = LOOKED_FOR.exec(registration);
  return found === null ? undefined : (JSON.parse(found[1]!) as string);
}

const zigzag = (value: number) => (value < 0 ? -2 * value - 1 : 2 * value);
const unzigzag = (value: number) => (value % 2 === 1 ? -(value + 1) / 2 : value / 2);

/** Packs positions: of each by how much function and line differ from those before, and its column, as varints. */
export function packPositions(positions: readonly ScriptPosition[]): string {
  const writer = new VarintWriter();
  let before = { functionIndex: 0, line: 0 };
  for (const { functionIndex, line, column } of positions) {
    writer.write(zigzag(functionIndex - before.functionIndex));
    writer.write(zigzag(line - before.line));
    writer.write(column);
    before = { functionIndex, line };
  }
  return toBase64(writer.bytes());
}

/** @throws RangeError when the text is none that `packPositions` makes */
export function unpackPositions(packed: string): ScriptPosition[] {
  const reader = new VarintReader(fromBase64(packed));
  const positions: ScriptPosition[] = [];
  let [functionIndex, line] = [0, 0];
  while (!reader.done) {
    functionIndex += unzigzag(reader.read());
    line += unzigzag(reader.read());
    positions.push({ functionIndex, line, column: reader.read() });
  }
  return positions;
}

/** Ids of functions that rewritten scripts register begin here, above those the recorder gives itself. */
export const FIRST_EXACT_FUNCTION = 2 ** 21;

/** Functions that stand for style and layout forced by script, among the exact calls. */
export const FORCED_STYLE_FUNCTION = FIRST_EXACT_FUNCTION - 2;
export const FORCED_LAYOUT_FUNCTION = FIRST_EXACT_FUNCTION - 1;
