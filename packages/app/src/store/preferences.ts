import { partialThresholds } from '@nettle-patch/core';
import { array, boolean, number, object, string, type InferType } from 'yup';

/** Schemes that would run or open something in this page's name. */
const UNSAFE_SCHEMES = new Set([
  'javascript',
  'data',
  'vbscript',
  'blob',
  'filesystem',
  'about',
  'view-source',
  'file',
]);
const SCHEME = /^([a-z][a-z0-9+.-]*):/i;
const MAX_PATTERNS = 50;

/** Why a template of links to an editor cannot be used; undefined when it can, or is empty. */
export function editorTemplateProblem(template: string): string | undefined {
  if (template === '') return undefined;
  const scheme = SCHEME.exec(template)?.[1]?.toLowerCase();
  if (scheme === undefined) return 'It must begin with the scheme of an editor, such as "editor://".';
  if (UNSAFE_SCHEMES.has(scheme))
    return `Links that begin with "${scheme}:" are not safe and are not followed.`;
  return template.includes('{file}') ? undefined : 'It must hold {file} where the path of the file belongs.';
}

/** Orders of the shelf. */
export const ORDERS = ['newest', 'oldest', 'worst', 'title', 'largest'] as const;

const pane = object({
  /** Absent while it is as wide as usual. CSS pixels. */
  width: number().integer().min(0).max(2000).optional(),
  isHidden: boolean().default(false),
});

const tableSort = object({
  /** Name of the column; empty for the usual order. */
  active: string().max(40).default(''),
  direction: string().oneOf(['asc', 'desc']).default('desc'),
});

const pattern = string().trim().min(1).max(200).required();

export const preferencesSchema = object({
  theme: string().oneOf(['system', 'light', 'dark']).default('system'),
  /** Link that opens a place in an editor, with {file}, {line} and {column}; empty when there is none. */
  editorTemplate: string()
    .trim()
    .max(500)
    .default('')
    .test(
      'editor',
      ({ value }) => editorTemplateProblem(String(value ?? '')) ?? '',
      (value) => {
        return editorTemplateProblem(value) === undefined;
      },
    ),
  /** Paths whose code counts as own, and as a library's, with * and ** as wild cards. The first list wins. */
  ownPaths: array().of(pattern).max(MAX_PATTERNS).default([]),
  libraryPaths: array().of(pattern).max(MAX_PATTERNS).default([]),
  /** Thresholds that hold instead of the recording's own. */
  thresholds: partialThresholds.default({}),
  /** Whether single letters and signs act as keys: somebody who dictates or has a tremor may not want that. */
  letterKeys: boolean().default(true),
  /** Whether the texts of sources go into saved files. */
  saveTexts: boolean().default(true),
  lanes: object({
    /** Ids of lanes in the order they are shown. */
    order: array().of(string().required()).default([]),
    hidden: array().of(string().required()).default([]),
    folded: array().of(string().required()).default([]),
  }),
  /** What is looked for on the shelf; no tag is an empty one. */
  shelf: object({
    text: string().max(200).default(''),
    tag: string().max(100).default(''),
    order: string().oneOf(ORDERS).default('newest'),
  }),
  /** The parts of views that can be made wider or hidden. */
  panes: object({ stings: pane, timeline: pane, calls: pane, source: pane }),
  /** What tables were put in order by last. */
  sorts: object({
    items: tableSort,
    redraws: tableSort,
    culprits: tableSort,
    lines: tableSort,
    compared: tableSort,
    series: tableSort,
  }),
});

/** What a person has set, kept in this browser. */
export type Preferences = InferType<typeof preferencesSchema>;

/** A part of a view that can be made wider or hidden. */
export type PaneName = keyof Preferences['panes'];

/** A table whose order is kept. */
export type SortedTable = keyof Preferences['sorts'];

export const USUAL_PREFERENCES: Preferences = preferencesSchema.getDefault();

/** Preferences as they were kept, each part that makes no sense any more as usual. */
export function readPreferences(kept: unknown): Preferences {
  const given = typeof kept === 'object' && kept !== null ? (kept as Partial<Preferences>) : {};
  let read = USUAL_PREFERENCES;
  for (const name of Object.keys(preferencesSchema.fields) as (keyof Preferences)[]) {
    try {
      read = preferencesSchema.validateSync({ ...read, [name]: given[name] ?? read[name] });
    } catch {
      continue;
    }
  }
  return read;
}
