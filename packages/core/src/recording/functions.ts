import type { RowContent } from '../format/rows';
import type { Source } from './sources';

export type Owner = 'own' | 'library' | 'browser';

/** Kinds of the engine's own work that a function row may stand for. */
export const ENGINE_ACTIVITIES = ['style', 'layout', 'paint', 'collection', 'other', 'dialog'] as const;
export type EngineActivity = (typeof ENGINE_ACTIVITIES)[number];

/** One function of the recorded program, by the best name and place known. */
export interface RecordedFunction extends RowContent<'function'> {
  readonly owner?: Owner;
  readonly activity?: EngineActivity;
}

export const UNKNOWN_FUNCTION = -1;

/** Stands for script whose function is not known. Ids below 0 are never given by rows. */
export const UNSEEN_SCRIPT = -2;
const FIRST_ENGINE_FUNCTION = -3;

/** The function that stands for work of the engine of one kind. */
export function engineFunction(activity: EngineActivity): number {
  return FIRST_ENGINE_FUNCTION - ENGINE_ACTIVITIES.indexOf(activity);
}

/** Functions that every recording has, without any row. */
export const STANDING_FUNCTIONS: readonly RecordedFunction[] = [
  { id: UNSEEN_SCRIPT, name: '(script not seen)', owner: 'own' },
  ...ENGINE_ACTIVITIES.map((activity): RecordedFunction => ({
    id: engineFunction(activity),
    name: activity,
    owner: 'browser',
    activity,
  })),
];

/** Whether a function is the app's own. @param functions those of its recording */
export function isOwnFunction(
  { functions }: { readonly functions: ReadonlyMap<number, RecordedFunction> },
  functionId: number,
): boolean {
  return ownerOf(functions.get(functionId)) === 'own';
}

/** A bundler's number for a module, or the index of an entry in a list, is no name. */
const NUMBER = /^\d+$/;
/** What `Function.prototype.bind` puts before the name of what it binds (ECMA-262, SetFunctionName). */
export const BOUND = /^(bound )+/;

/** Whether a function was made by `bind`: the engine tells neither of its text nor of its place, only of its name. */
export function isBound({ name }: RecordedFunction): boolean {
  return BOUND.test(name);
}

/** Name for people: that in the source, such as "anonymous in showLog", else the one it ran under; "(anonymous)" where there is none. */
export function displayName(recorded: RecordedFunction | undefined): string {
  const name = (recorded?.originalName || recorded?.name || '').replace(BOUND, '');
  return name === '' || NUMBER.test(name) ? '(anonymous)' : name;
}

/** A place short enough for a table, by the last two parts of its path: "deck/trim.ts:41". */
export function shortPlace(place: string): string {
  return place.split('/').slice(-2).join('/');
}

/** A place in source as people write it: "deck/trim.ts:41"; empty for code of the engine. */
export function displayPlace(recorded: RecordedFunction | undefined, source: Source | undefined): string {
  const file = recorded?.originalFile ?? (source && shortPath(source.url));
  const line = recorded?.originalFile ? recorded.originalLine : recorded?.line;
  if (file === undefined) return '';
  return line === undefined ? file : `${file}:${line}`;
}

function shortPath(url: string): string {
  const path = /^[a-z][a-z0-9+.-]*:\/\/[^/]*\/(.*)$/i.exec(url)?.[1] ?? url;
  return path === '' ? url : path;
}

/** Whose code it is: as resolved, else told from whether the engine or a script provides it. */
export function ownerOf(recorded: RecordedFunction | undefined): Owner {
  return recorded?.owner ?? (recorded?.source === undefined ? 'browser' : 'own');
}
