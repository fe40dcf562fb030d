import { engineName } from '@nettle-patch/core';

/** Whether this is Firefox's engine. */
export const isGecko = () => 'InternalError' in globalThis;

/** The engine and its major version, for people: told from what the engine can do before what it says. */
export const engineHere = () => engineName(navigator.userAgent, isGecko());
