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
}

/** Ids of functions that rewritten scripts register begin here, above those the recorder gives itself. */
export const FIRST_EXACT_FUNCTION = 2 ** 20;

/** Functions that stand for style and layout forced by script, among the exact calls. */
export const FORCED_STYLE_FUNCTION = FIRST_EXACT_FUNCTION - 2;
export const FORCED_LAYOUT_FUNCTION = FIRST_EXACT_FUNCTION - 1;
