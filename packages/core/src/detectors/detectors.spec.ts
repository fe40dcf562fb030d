import { readFileSync } from 'node:fs';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { text } from '../explanation/sentence';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { explainReport } from '../report/explain-report';
import type { StingDetail } from '../stings/sting';
import { recordingOf } from '../testing/arbitrary-recording';
import { deskRun, end } from '../testing/desk-rows';
import type { Detector } from './detector';
import { kindLabel, kindsTable } from './kinds';
import type * as List from './list';

interface EchoDetail extends StingDetail {
  readonly type: 'echo';
  readonly calls: number;
}

/** A detector as somebody else would write it: it finds entries of exactly 77 ms. */
const echo = {
  kind: 'echo',
  detail: 'echo',
  label: 'echo of the horn',
  about: 'An entry of 77 ms',
  extent: 'spell',
  isRate: false,
  find: (recording) =>
    [...recording.events.handler.rows()]
      .filter(({ durationMs }) => durationMs === 77)
      .map(({ thread, startMs, durationMs }) => ({
        thread,
        label: 'Echo',
        startMs,
        endMs: startMs + durationMs,
        feltMs: durationMs,
        budgetMs: 10,
        detail: { type: 'echo', calls: 3 },
      })),
  because: (_recording, _anatomy, { calls }) => [text(`The horn was heard ${calls} times.`)],
} satisfies Detector<'echo', EchoDetail>;

const listed = vi.hoisted(() => ({ more: [] as Detector[] }));

// The list with one line more: nothing else is changed.
vi.mock('./list', async (importOriginal) => {
  const list = await importOriginal<typeof List>();
  const all = () => [...list.DETECTORS, ...listed.more];
  return {
    ...list,
    get DETECTORS() {
      return all();
    },
    get STING_KINDS() {
      return [...new Set(all().map(({ kind }) => kind))];
    },
  };
});

afterEach(() => {
  listed.more = [];
});

describe('a detector of another folder, with a line in the list', () => {
  it('is found in the report, with its sentence, in the words of the interface and in the table of the documentation', () => {
    const recording = recordingOf([deskRun(100, 77), end(1000)]);
    expect(explainReport(recording, { ...DEFAULT_THRESHOLDS, longTaskMs: 500 }).stings).toEqual([]);
    listed.more = [echo];
    const { stings } = explainReport(recording, { ...DEFAULT_THRESHOLDS, longTaskMs: 500 });
    expect(stings).toHaveLength(1);
    expect(stings[0]).toMatchObject({ kind: 'echo', label: 'Echo', because: 'The horn was heard 3 times.' });
    expect(kindLabel('echo')).toBe('echo of the horn');
    expect(kindsTable()).toContain('| `echo` | echo of the horn | An entry of 77 ms | one delay |');
  });
});

it('the documentation has the table that the detectors give', () => {
  const cells = (table: string) => table.replaceAll(/ {2,}/g, ' ').replaceAll(/-{3,}/g, '---');
  const documented = readFileSync(new URL('../../../../docs/reports.md', import.meta.url), 'utf8');
  expect(cells(documented)).toContain(cells(kindsTable()));
});
