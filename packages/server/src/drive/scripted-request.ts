import { array, number, object, string } from 'yup';
import { CAPTURE_MODES, SLOWINGS, type CaptureMode } from '@nettle-patch/core';
import { BROWSER_NAMES, type BrowserName } from './local-browsers';

/** What every request to take steps in a browser says. */
export const scriptedFields = {
  steps: array(object()).min(1).required(),
  browser: string<BrowserName>().oneOf(BROWSER_NAMES).required(),
  /** Address of the app, as its own server has it or as it is opened; the first app where none is given. */
  app: string().max(2000),
  /** Path of the page, with its query. */
  path: string().max(2000).matches(/^\//, 'path must begin with "/"').required(),
  mode: string<CaptureMode>().oneOf(CAPTURE_MODES).required(),
  /** How many times slower the browser is to run. */
  slow: number().oneOf(SLOWINGS),
};
