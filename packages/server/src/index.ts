/** What other programs may use of the server: starting it, and its source-fetching. */
export { serve, type Running, type ServeOptions } from './serve';
export { targetOriginOf, BadAddressError } from './apps/target-origin';
export { PortMemory } from './apps/port-memory';
export { fetchScript } from './sources/fetch-script';
export { RecordingClient } from './client/recording-client';
export { recordScript } from './drive/record';
export { scriptedParts } from './scripted-parts';
export { BROWSER_NAMES, missingFor, openLocalBrowser } from './drive/local-browsers';
export { runSteps } from './drive/run-steps';
export { UnrewritableError, parseScript, rewriteScript } from '@nettle-patch/instrument';
export { problemOf } from './rewriting/well-formed';
export * from '@nettle-patch/core';
