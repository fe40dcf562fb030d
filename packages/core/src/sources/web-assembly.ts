import type { RecordedFunction } from '../recording/functions';
import type { Source } from '../recording/sources';
import { originalPath } from '../recording/original-path';

/** Whether a source is a module of WebAssembly, which has no text: engines tell its functions by the module's own names. */
export function isWebAssembly({ url }: Source): boolean {
  return url.startsWith('wasm:') || /\.wasm(?:$|[?#])/.test(url);
}

/** A function of a module. Where others have a line and a column it has an offset in bytes, which nobody can open. */
export function asWebAssembly(recorded: RecordedFunction, { url }: Source): RecordedFunction {
  const { line: _line, column: _column, ...rest } = recorded;
  return {
    ...rest,
    originalName: recorded.name,
    originalFile: originalPath(url) || 'a module of WebAssembly',
  };
}
