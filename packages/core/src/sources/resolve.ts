import type { RowOfKind } from '../format/rows';
import { BOUND, isBound, type RecordedFunction } from '../recording/functions';
import type { Recording } from '../recording/recording';
import type { Source } from '../recording/sources';
import { evaluatedScripts } from './evaluated-scripts';
import { originalPath } from '../recording/original-path';
import { asRecorder, isRecorderSource } from './recorder-functions';
import { asWebAssembly, isWebAssembly } from './web-assembly';
import type { ScriptText } from './script-text';
import { ScriptResolver } from './resolve-script';
import { textsOf } from './source-texts';

type ResolvingRow = RowOfKind<'source'> | RowOfKind<'function'> | RowOfKind<'text'>;

/** Whether nothing is known of a function but the name that `bind` has given it. */
const isPlacelessBound = (recorded: RecordedFunction) => recorded.source === undefined && isBound(recorded);

/** Whether a script has an address that no server answers at, as one may have that another evaluates. */
const isAtNoServer = ({ url }: Source) => url !== '' && !/^(?:https?|blob|data):/.test(url);

/** Scripts of a recording whose text is needed to name its functions. */
export function sourcesToFetch(recording: Recording): Source[] {
  const functions = [...recording.functions.values()];
  const used = new Set(functions.map((recorded) => recorded.source));
  const anywhere =
    functions.some((recorded) => recorded.partHash !== undefined || isPlacelessBound(recorded)) ||
    [...recording.sources.values()].some(isAtNoServer);
  return [...recording.sources.values()].filter(
    (source) =>
      (anywhere || used.has(source.id)) &&
      source.map === undefined &&
      !isRecorderSource(source) &&
      !isWebAssembly(source),
  );
}

/** The function whose script is not known, if its text stands in just one place of all scripts. */
function findByText(
  recorded: RecordedFunction,
  resolvers: ReadonlyMap<number, ScriptResolver>,
): RecordedFunction | undefined {
  const { partHash, partLength, source } = recorded;
  if (partHash === undefined || partLength === undefined || source !== undefined) return undefined;
  const found = [...resolvers].flatMap(([id, resolver]) =>
    resolver.starts({ partHash, partLength }).map((start) => ({ id, resolver, start })),
  );
  const texts = new Set(found.map(({ resolver, start }) => `${resolver.url} ${start}`));
  if (texts.size !== 1) return undefined;
  const { id, resolver, start } = found[0]!;
  return resolver.resolve({ ...recorded, source: id, position: start });
}

/** A function made by `bind`, if just one function of all scripts has its name, and none of them is unknown. */
function findByName(
  recorded: RecordedFunction,
  resolvers: ReadonlyMap<number, ScriptResolver>,
): RecordedFunction | undefined {
  if (!isPlacelessBound(recorded)) return undefined;
  const name = recorded.name.replace(BOUND, '');
  const places = new Map<string, () => RecordedFunction>();
  for (const [source, resolver] of resolvers) {
    if (!resolver.hasText) return undefined;
    for (const position of resolver.startsOf(name))
      places.set(`${resolver.url} ${position}`, () => resolver.resolve({ ...recorded, source, position }));
  }
  return places.size === 1 ? [...places.values()][0]!() : undefined;
}

/** What two rows of the same function have in common: its place in the source, or else in the script. */
function identity(recorded: RecordedFunction): string | undefined {
  const { originalFile, originalLine, originalColumn, originalName, source, line, column, place } = recorded;
  if (place) return undefined;
  if (originalFile !== undefined) return `${originalFile} ${originalLine} ${originalColumn} ${originalName}`;
  return source === undefined || line === undefined ? undefined : `${source} ${line} ${column}`;
}

/** Whatever is wrong with one script, the others are resolved all the same. */
function readScript(script: ScriptText): ScriptResolver {
  try {
    return new ScriptResolver(script);
  } catch (error) {
    return new ScriptResolver({
      url: script.url,
      problem: `it could not be read: ${(error as Error).message}`,
    });
  }
}

/** Gives the resolver of a script; several sources may be of the same one, which is read once. */
function scriptReader(): (script: ScriptText) => ScriptResolver {
  const known = new Map<ScriptText, ScriptResolver>();
  return (script) => {
    const resolver = known.get(script) ?? readScript(script);
    known.set(script, resolver);
    return resolver;
  };
}

/** Scripts that others hold as text and that no function is known to be of, by ids that no source has. */
function hiddenResolvers(
  recording: Recording,
  evaluated: ReadonlyMap<string, ScriptText>,
): Map<number, ScriptResolver> {
  const known = new Set([...recording.sources.values()].map(({ url }) => url));
  const hidden = [...evaluated].filter(([key, { url }]) => key === url && !known.has(url));
  const firstId = Math.max(-1, ...recording.sources.keys()) + 1;
  return new Map(hidden.map(([, script], at) => [firstId + at, readScript(script)]));
}

/** Gives sources of one path but of different texts, as two bundles may have, different paths. */
function tellApart(resolvers: ReadonlyMap<number, ScriptResolver>): void {
  const textsOfPath = new Map<string, Map<string, string>>();
  for (const resolver of new Set(resolvers.values())) {
    for (const { path, text } of resolver.sources) {
      if (text === undefined) continue;
      const known = textsOfPath.get(path) ?? new Map<string, string>();
      textsOfPath.set(path, known);
      const name = known.get(text) ?? (known.size === 0 ? path : `${path} (${originalPath(resolver.url)})`);
      known.set(text, name);
      if (name !== path) resolver.rename(path, name);
    }
  }
}

/** The function as its script tells of it; as it was where the script is too damaged to tell. */
function resolvedBy(
  resolver: ScriptResolver | undefined,
  recorded: RecordedFunction,
): RecordedFunction | undefined {
  try {
    return resolver?.resolve(recorded);
  } catch {
    return undefined;
  }
}

/**
 * Finds the original names and places of a recording's functions.
 * @param scripts what could be fetched of the scripts, by address
 * @returns rows to be added to the recording: they replace the source and function rows of the same id, and bring the
 * texts of the files that the functions are in.
 */
export function resolveFunctions(
  recording: Recording,
  scripts: ReadonlyMap<string, ScriptText>,
): ResolvingRow[] {
  const rows: ResolvingRow[] = [];
  const resolvers = new Map<number, ScriptResolver>();
  const resolverOf = scriptReader();
  const evaluated = new Map([...scripts.values()].flatMap(({ text = '' }) => [...evaluatedScripts(text)]));
  for (const source of sourcesToFetch(recording)) {
    const script = (isAtNoServer(source) ? evaluated.get(source.url) : undefined) ??
      scripts.get(source.url) ?? { url: source.url, problem: 'its text was not fetched' };
    const resolver = resolverOf(script);
    resolvers.set(source.id, resolver);
    const { url, mapUrl } = script;
    rows.push({
      kind: 'source',
      ...source,
      url,
      ...(mapUrl === undefined ? {} : { map: mapUrl }),
      ...(resolver.problem === undefined ? {} : { problem: resolver.problem }),
    });
  }
  tellApart(resolvers);
  const resolvedFunctions: RecordedFunction[] = [];
  const firstWith = new Map<string, number>();
  let hidden: Map<number, ScriptResolver> | undefined;
  const findHidden = (recorded: RecordedFunction) => {
    hidden ??= hiddenResolvers(recording, evaluated);
    const found = findByText(recorded, hidden);
    const resolver = found && hidden.get(found.source!)!;
    if (resolver && !resolvers.has(found.source!)) {
      resolvers.set(found.source!, resolver);
      rows.push({ kind: 'source', id: found.source!, url: resolver.url });
    }
    return found;
  };
  for (const recorded of recording.functions.values()) {
    const source = recorded.source === undefined ? undefined : recording.sources.get(recorded.source);
    const resolver = source && resolvers.get(source.id);
    const resolved =
      source && isRecorderSource(source)
        ? asRecorder(recorded)
        : source && isWebAssembly(source)
          ? asWebAssembly(recorded, source)
          : (resolvedBy(resolver, recorded) ??
            findByText(recorded, resolvers) ??
            findHidden(recorded) ??
            findByName(recorded, resolvers) ??
            recorded);
    resolvedFunctions.push(resolved);
    const key = identity(resolved);
    const first = key === undefined ? undefined : firstWith.get(key);
    if (key !== undefined && first === undefined) firstWith.set(key, recorded.id);
    if (first !== undefined) rows.push({ kind: 'function', ...resolved, sameAs: first });
    else if (resolved !== recorded) rows.push({ kind: 'function', ...resolved });
  }
  for (const text of textsOf(resolvedFunctions, resolvers)) rows.push({ kind: 'text', ...text });
  return rows;
}
