import type { Row } from '../format/rows';

const isDrop = (line: string) => (JSON.parse(line) as Partial<Row>).kind === 'drop';

/**
 * What is told of batches that did not come: nothing where the emitter itself says what it gave up.
 * @param startMs when, on the clock of the recording
 * @param next lines of the batches that came after them
 */
export function lostBatches(missing: number, startMs: number, next: readonly string[]): Row[] {
  if (next.some(isDrop)) return [];
  return [{ kind: 'drop', startMs, count: missing, reason: 'batches were lost on the way' }];
}
