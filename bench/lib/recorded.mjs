import { fileText, readRecording, recordScript } from '../../packages/server/dist/index.js';

/**
 * Records a page while steps are taken in it.
 * @param wanted as `recordScript` takes it
 * @returns the name of the browser, and the recording
 * @throws what went wrong while the steps were taken
 */
export async function recorded(wanted) {
  const { lines, browser, failure } = await recordScript(wanted);
  if (failure !== undefined) throw failure;
  return { browser, recording: readRecording([Buffer.from(fileText(lines))]).recording };
}
