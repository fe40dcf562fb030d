import { TraceMap, originalPositionFor, sourceContentFor } from '@jridgewell/trace-mapping';
import type { RecordedFunction } from '../recording/functions';
import { functionSites, siteAt, type FunctionSite } from './function-sites';
import { isLibraryPath, originalPath } from './original-path';
import { LineIndex, type TextPosition } from './text-position';

/** What could be fetched of one script. */
export interface ScriptText {
  readonly url: string;
  readonly text?: string;
  /** Source map as JSON text (ECMA-426). */
  readonly map?: string;
  readonly mapUrl?: string;
  /** Why the text or the map is missing. */
  readonly problem?: string;
}

const IDENTIFIER = /^[\p{ID_Start}$_][\p{ID_Continue}$\u200c\u200d]*/u;

/** Looks up the functions of one script in its text and its source map. */
export class ScriptResolver {
  readonly #lines: LineIndex | undefined;
  readonly #sites: readonly FunctionSite[];
  readonly #map: TraceMap | undefined;
  /** Why functions of this script cannot be mapped; undefined when they can. */
  readonly problem: string | undefined;

  constructor(private readonly script: ScriptText) {
    this.#lines = script.text === undefined ? undefined : new LineIndex(script.text);
    const sites = script.text === undefined ? [] : functionSites(script.text);
    this.#sites = sites ?? [];
    this.#map = readMap(script);
    this.problem = this.#problem(sites === undefined);
  }

  /** The function with what its text and map tell of it. */
  resolve(recorded: RecordedFunction): RecordedFunction {
    const lines = this.#lines;
    const at = this.#offset(recorded);
    if (lines === undefined || at === undefined) return recorded;
    const site = siteAt(this.#sites, at);
    const generated = lines.position(site?.nameStart ?? site?.start ?? at);
    const place = site === undefined ? lines.position(at) : lines.position(site.start);
    const name = site?.name ?? recorded.name;
    const mapped = this.#mapped(generated, name !== '');
    const base = { ...recorded, line: place.line, column: place.column };
    if (mapped === undefined)
      return { ...base, ...(name === '' ? {} : { originalName: name }), owner: 'own' };
    return { ...base, ...mapped, originalName: mapped.originalName ?? name };
  }

  #offset(recorded: RecordedFunction): number | undefined {
    if (recorded.position !== undefined) return recorded.position;
    if (recorded.line === undefined || recorded.column === undefined) return undefined;
    return this.#lines?.offset({ line: recorded.line, column: recorded.column });
  }

  #mapped(generated: TextPosition, named: boolean): Partial<RecordedFunction> | undefined {
    if (this.#map === undefined) return undefined;
    const original = originalPositionFor(this.#map, { line: generated.line, column: generated.column - 1 });
    if (original.source === null || original.line === null) return undefined;
    const originalFile = originalPath(original.source);
    const originalName = named
      ? (original.name ?? this.#nameInSource(original.source, original.line, original.column))
      : undefined;
    return {
      originalFile,
      originalLine: original.line,
      originalColumn: original.column + 1,
      owner: isLibraryPath(originalFile) ? 'library' : 'own',
      ...(originalName === undefined ? {} : { originalName }),
    };
  }

  /** The identifier that stands at a place of the original source, when the map carries its content. */
  #nameInSource(source: string, line: number, column: number): string | undefined {
    const text = sourceContentFor(this.#map!, source)?.split('\n', line).at(-1);
    return text === undefined ? undefined : IDENTIFIER.exec(text.slice(column))?.[0];
  }

  #problem(unparsable: boolean): string | undefined {
    if (this.script.problem !== undefined) return this.script.problem;
    if (unparsable) return 'its text could not be parsed';
    if (this.script.map === undefined) return undefined;
    return this.#map === undefined ? 'its source map could not be read' : undefined;
  }
}

function readMap(script: ScriptText): TraceMap | undefined {
  if (script.map === undefined) return undefined;
  try {
    return new TraceMap(script.map, script.mapUrl ?? script.url);
  } catch {
    return undefined;
  }
}
