/** What stands before the path of a source that has no place of its own, as some bundlers write it. */
const NO_PLACE = /^(?:null|undefined)\//;

/**
 * The path of an original source as people know it: without scheme, host, query and leading dots.
 * "webpack://desk/./src/deck/trim.ts?1f" and "../../src/deck/trim.ts" both give "src/deck/trim.ts".
 */
export function originalPath(source: string | null): string {
  return (source ?? '')
    .replace(/[?#].*$/, '')
    .replace(/^[a-z][a-z0-9+.-]*:\/\/[^/]*\//i, '')
    .replace(/^[a-z][a-z0-9+.-]*:/i, '')
    .split('/')
    .filter((part) => part !== '' && part !== '.' && part !== '..')
    .join('/')
    .replace(NO_PLACE, '');
}

const LIBRARY_FOLDERS = /(^|\/)(node_modules|bower_components|vendor|third[_-]party|\.vite\/deps)\//;
/** A chunk of modules that a package manager brought, the slashes of its path written as underscores. */
const LIBRARY_CHUNK = /(^|\/)node_modules_[^/]*$/;
/** What dev servers and bundlers put into a page of their own. */
const TOOLING = /(^|\/)(@id\/|@vite\/|@react-refresh(?:$|\?)|webpack\/(?:runtime|bootstrap)|\(webpack\))/;

/**
 * Whether a path or an address leads to code that a package manager or a build tool brought. The one rule by which code
 * is a library's, in every mode and for what is read from other formats; patterns of the person who looks go before it.
 */
export function isLibraryPath(path: string): boolean {
  return LIBRARY_FOLDERS.test(path) || LIBRARY_CHUNK.test(path) || TOOLING.test(path);
}
