/**
 * The path of an original source as people know it: without scheme, host, query and leading dots.
 * "webpack://desk/./src/deck/trim.ts?1f" and "../../src/deck/trim.ts" both give "src/deck/trim.ts".
 */
export function originalPath(source: string): string {
  return source
    .replace(/[?#].*$/, '')
    .replace(/^[a-z][a-z0-9+.-]*:\/\/[^/]*\//i, '')
    .replace(/^[a-z][a-z0-9+.-]*:/i, '')
    .split('/')
    .filter((part) => part !== '' && part !== '.' && part !== '..')
    .join('/');
}

/** Whether a path leads to code that a package manager brought. */
export function isLibraryPath(path: string): boolean {
  return /(^|\/)(node_modules|bower_components|vendor|third[_-]party)\//.test(path);
}
