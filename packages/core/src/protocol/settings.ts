import { array, boolean, object, string, type InferType } from 'yup';
import { CAPTURE_MODES, type CaptureMode } from '../format/header';

export const settingsSchema = object({
  /**
   * How closely is recorded: "everyday" takes what the engine tells; "fine" has scripts rewritten on their way, so that a
   * millisecond and a line are known; "exact" so that every call is recorded.
   */
  mode: string<CaptureMode>().oneOf(CAPTURE_MODES).default('everyday'),
  /** Whether somebody has chosen the mode; until then an engine without a sampler of its own gets "fine". */
  isModeChosen: boolean().default(false),
  /** Whether pages are isolated (HTML, cross-origin isolation), so that a hang can be looked into. */
  isolate: boolean().default(false),
  /**
   * In fine mode: the function whose calls, and all that they call, are recorded exactly, by its place in its source,
   * "file:line" or "file:line:column"; empty for none.
   */
  closer: string().max(1000).default(''),
  /** What of a person's input is kept as steps, so that it can be done again: "places" keeps no typed text. */
  steps: string<'off' | 'places' | 'texts'>().oneOf(['off', 'places', 'texts']).default('places'),
  /** Whether controls (buttons, links, menu items, tabs) are named by their visible text, and not by their ids. */
  labels: string<'ids' | 'texts'>().oneOf(['ids', 'texts']).default('ids'),
  /** Scripts whose address holds one of these texts are never rewritten. */
  leaveOut: array(string().min(1).max(200).required()).max(50).default([]),
}).noUnknown();

/** How the proxy treats the pages it passes on. */
export type ProxySettings = InferType<typeof settingsSchema>;

export const DEFAULT_SETTINGS: ProxySettings = settingsSchema.getDefault();

/** How closely a page is looked at. @param hasSampler whether its engine samples call stacks itself */
export function modeFor(
  { mode, isModeChosen }: Pick<ProxySettings, 'mode' | 'isModeChosen'>,
  hasSampler: boolean,
): CaptureMode {
  return isModeChosen || hasSampler || mode !== 'everyday' ? mode : 'fine';
}
