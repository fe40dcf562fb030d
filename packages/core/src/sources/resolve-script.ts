import type { ScriptText } from './script-text';
import { isIgnored, originalPositionFor, sourceContentFor, type TraceMap } from '@jridgewell/trace-mapping';
import type { Owner, RecordedFunction } from '../recording/functions';
import { withoutInsertions } from '../instrumentation/insertions';
import { functionSites, siteAt, type FunctionSite } from './function-sites';
import { hasLibraryBanner } from './library-banner';
import { isLibraryPath, originalPath } from '../recording/original-path';
import { readSourceMap } from './source-map';
import { LineIndex, type TextPosition } from './text-position';
import { hashText, type TextPart } from './text-part';

const NAME = /^[\p{ID_Start}$_][\p{ID_Continue}$\u200c\u200d]*/u;
/** A function that carries its name, which a bundler may have dropped. */
const FUNCTION_NAME = /^(?:async\s+)?function(?:\s*\*)?\s*([\p{ID_Start}$_][\p{ID_Continue}$\u200c\u200d]*)/u;

/** Words that stand before a name; a map that knows lines only leads to the first of a line. */
const NO_NAME =
  /^(?:async|await|class|const|default|export|function|get|import|let|new|return|set|static|var|yield)$/;

/** The name that stands at the beginning of a text, if one does. */
function nameAt(text: string): string | undefined {
  const name = NAME.exec(text)?.[0];
  return name === undefined || NO_NAME.test(name) ? undefined : name;
}

interface Mapped {
  readonly place: Pick<RecordedFunction, 'originalFile' | 'originalLine' | 'originalColumn' | 'owner'>;
  readonly name?: string;
}

interface OriginalSource {
  readonly path: string;
  /** Of its text, which is empty where the map does not carry it. */
  readonly lines: LineIndex;
  readonly owner: Owner;
}

/** Looks up the functions of one script in its text and its source map. */
export class ScriptResolver {
  readonly #lines: LineIndex | undefined;
  readonly #sites: readonly FunctionSite[];
  readonly #map: TraceMap | undefined;
  #byStart: Map<number, FunctionSite> | undefined;
  #isLibrary: boolean | undefined;
  readonly #names = new Map<string, string>();
  readonly #originals = new Map<string, OriginalSource>();
  /** Why functions of this script cannot be mapped; undefined when they can. */
  readonly problem: string | undefined;

  /** @param sites its functions in order of their start, where they are known already */
  constructor(
    private readonly script: ScriptText,
    sites = functionSites(script.text ?? ''),
  ) {
    this.#lines = script.text === undefined ? undefined : new LineIndex(script.text);
    this.#sites = sites ?? [];
    const { map, problem } = readSourceMap(script);
    this.#map = map;
    this.problem = this.#problem(sites === undefined, problem);
  }

  /** The function with what its text and map tell of it. */
  resolve(recorded: RecordedFunction): RecordedFunction {
    const lines = this.#lines;
    const at = this.#offset(recorded);
    if (lines === undefined || at === undefined) return recorded;
    const site = siteAt(this.#sites, at);
    const { name = recorded.name || undefined, place } = this.#named(site, at);
    const exact = recorded.place ? this.#mapped(lines.position(at), false)?.place : undefined;
    return {
      ...recorded,
      ...lines.position(recorded.place ? at : (site?.start ?? at)),
      owner: this.#owner(),
      ...place,
      ...exact,
      ...(name === undefined ? {} : { originalName: name }),
    };
  }

  /**
   * The best name and place known of the function that begins at an offset of the text.
   * @returns without a map, the place in the script itself, of its name where it has one as a map would tell it, and no
   * file
   */
  functionAt(start: number): {
    name: string;
    file: string | undefined;
    line: number;
    column: number;
    owner: Owner;
  } {
    this.#byStart ??= new Map(this.#sites.map((site) => [site.start, site]));
    const site = this.#byStart.get(start);
    const { name = '', place } = this.#named(site, start);
    const { line, column } = this.#lines!.position(site?.nameStart ?? start);
    return {
      name,
      file: place?.originalFile,
      line: place?.originalLine ?? line,
      column: place?.originalColumn ?? column,
      owner: place?.owner ?? this.#owner(),
    };
  }

  /** The original position of an offset of the text; without a map, that in the script itself, and no file. */
  positionAt(offset: number): { file: string | undefined; line: number; column: number } {
    const generated = this.#lines!.position(offset);
    const place = this.#mapped(generated, false)?.place;
    return {
      file: place?.originalFile,
      line: place?.originalLine ?? generated.line,
      column: place?.originalColumn ?? generated.column,
    };
  }

  get url(): string {
    return this.script.url;
  }

  /** Paths of the original sources with their texts, as far as the map carries them. */
  get sources(): readonly { readonly path: string; readonly text: string | undefined }[] {
    const { resolvedSources = [] } = this.#map ?? {};
    return resolvedSources.map((source) => ({
      path: originalPath(source),
      text: sourceContentFor(this.#map!, source) ?? undefined,
    }));
  }

  /** Has an original source go by another path, as another script has another source of the same path. */
  rename(path: string, to: string): void {
    this.#names.set(path, to);
  }

  /**
   * The text of an original source that the map carries, or of the script itself.
   * @param file path of the source, or address of the script
   */
  textOf(file: string): string | undefined {
    if (file === this.script.url) return this.script.text;
    const source = this.#map?.resolvedSources.find(
      (one) => (this.#names.get(originalPath(one)) ?? originalPath(one)) === file,
    );
    return source === undefined ? undefined : (sourceContentFor(this.#map!, source) ?? undefined);
  }

  /** Offsets at which the functions begin whose text ends with a part. */
  starts({ partLength, partHash }: TextPart): number[] {
    const text = this.script.text ?? '';
    return this.#sites
      .filter(({ start, end }) => {
        if (end - start < partLength) return false;
        const own = withoutInsertions(text.slice(start, end));
        return own.length >= partLength && hashText(own.slice(-partLength)) === partHash;
      })
      .map(({ start }) => start);
  }

  /** Whether its functions are known. */
  get hasText(): boolean {
    return this.script.text !== undefined;
  }

  /** Offsets at which the functions of a name begin. */
  startsOf(name: string): number[] {
    return this.#sites.flatMap((site) => (site.name === name ? [site.start] : []));
  }

  #named(site: FunctionSite | undefined, at: number): { name?: string; place?: Mapped['place'] } {
    const place = this.#lines!.position(site?.nameStart ?? site?.start ?? at);
    const mapped = this.#mapped(place, site?.nameStart !== undefined);
    const name = this.#nameOf(site, mapped);
    return {
      ...(name === undefined ? {} : { name }),
      ...(mapped === undefined ? {} : { place: mapped.place }),
    };
  }

  /** The best name there is: that of the source, that of the script, or of what the function stands in. */
  #nameOf(site: FunctionSite | undefined, mapped: Mapped | undefined): string | undefined {
    const own = mapped?.name ?? site?.name;
    if (own !== undefined || site === undefined) return own;
    let outer = site.outer;
    while (outer !== undefined && outer.nameStart === undefined) outer = outer.outer;
    if (outer?.nameStart === undefined) return undefined;
    const outerName = this.#mapped(this.#lines!.position(outer.nameStart), true)?.name ?? outer.name;
    return `anonymous in ${outerName}`;
  }

  #offset(recorded: RecordedFunction): number | undefined {
    if (recorded.position !== undefined) return recorded.position;
    if (recorded.line === undefined || recorded.column === undefined) return undefined;
    return this.#lines?.offset({ line: recorded.line, column: recorded.column });
  }

  /** @param named whether a name stands at the place; else only a function that has one there counts */
  #mapped(generated: TextPosition, named: boolean): Mapped | undefined {
    if (this.#map === undefined) return undefined;
    const original = originalPositionFor(this.#map, { line: generated.line, column: generated.column - 1 });
    if (!original.source || original.line === null) return undefined;
    const { path, lines, owner } = this.#originalSource(original.source);
    const originalFile = this.#names.get(path) ?? path;
    const text = lines.lineOf(original.line).slice(original.column);
    const name = named ? (original.name ?? nameAt(text)) : FUNCTION_NAME.exec(text)?.[1];
    return {
      place: {
        originalFile,
        originalLine: original.line,
        originalColumn: original.column + 1,
        owner,
      },
      ...(name === undefined ? {} : { name }),
    };
  }

  /** Whose the script is, where no map tells of its parts. */
  #owner(): Owner {
    const { url, text = '' } = this.script;
    this.#isLibrary ??= isLibraryPath(url) || hasLibraryBanner(url, text);
    return this.#isLibrary ? 'library' : 'own';
  }

  /** What the map tells of an original source, looked up once. */
  #originalSource(source: string): OriginalSource {
    let known = this.#originals.get(source);
    if (known === undefined) {
      const isLibrary = isLibraryPath(source) || isIgnored(this.#map!, source);
      known = {
        path: originalPath(source),
        lines: new LineIndex(sourceContentFor(this.#map!, source) ?? ''),
        owner: isLibrary ? 'library' : 'own',
      };
      this.#originals.set(source, known);
    }
    return known;
  }

  #problem(unparsable: boolean, ofMap: string | undefined): string | undefined {
    if (this.script.problem !== undefined) return this.script.problem;
    return unparsable ? 'its text could not be parsed' : ofMap;
  }
}
