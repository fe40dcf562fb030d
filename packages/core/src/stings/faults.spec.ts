import { describe, expect, it } from 'vitest';
import { recorded } from '../testing/recorded';
import { findCreep } from '../detectors/creep';
import { findStings, type Detector } from '../detectors/index';
import { findForcedLayouts } from '../detectors/forced-layout';
import { findHangs } from '../detectors/hang';
import { findIdleWork } from '../detectors/idle-work';
import { findLateFrames } from '../detectors/late-frames';
import { findLongTasks } from '../detectors/long-task';
import { findMovedByLayout } from '../detectors/moved-by-layout';
import { findSlowResponses } from '../detectors/slow-response';
import { DEFAULT_THRESHOLDS } from './thresholds';
import { findTooOften } from '../detectors/too-often';

/** While the desk starts it builds its index and draws everything once, mended or not. */
const STARTED_MS = 1000;

/** What a detector finds, without what every page does while it starts and answers come in. */
function found(detect: Detector, name: string): string[] {
  return detect(recorded(name), DEFAULT_THRESHOLDS)
    .filter(({ endMs }) => endMs > STARTED_MS || name.startsWith('start-up'))
    .map(({ label }) => label)
    .filter((label) => !/Response\.|Answer to|^Frame callback$|recorder|in parseDepartures/.test(label));
}

const CASES: [kind: string, detect: Detector, fault: string, label: string | RegExp][] = [
  ['slow response', findSlowResponses, 'manifest-search', /^Type in search field “Search manifest”$/],
  ['slow response', findSlowResponses, 'board-all', /^Tap button “Board all”$/],
  ['hang', findHangs, 'board-all', 'Listener onBoardAll'],
  ['hang', findHangs, 'start-up', 'Script fares.js'],
  ['late frames', findLateFrames, 'deck-drag', 'Listener onDragMove'],
  ['forced layout', findForcedLayouts, 'deck-drag', 'Layout forced by makeRoomOneByOne'],
  ['idle work', findIdleWork, 'tide-chart', 'Idle work of drawTideInEveryFrame'],
  ['idle work', findIdleWork, 'departures-poll', 'Idle work of loadDepartures'],
  ['idle work', findMovedByLayout, 'ticker', 'Layout in every frame by moveNotice'],
  ['creep', findCreep, 'deck-log', /^Growing cost of anonymous in constructor$/],
  ['too often', findTooOften, 'board-all-exact', 'Too many calls of bendingOfPair'],
];

describe('on a recording of the boarding desk', () => {
  it.each(CASES)('%s is found by %o in %s, and not in the mended version', (_kind, detect, fault, label) => {
    expect(found(detect, fault)).toEqual(
      expect.arrayContaining([typeof label === 'string' ? label : expect.stringMatching(label)]),
    );
    expect(found(detect, `${fault}-mended`)).toEqual([]);
  });

  it('a long task is found in the poll, and none of its timer in the mended version', () => {
    const polls = (name: string) =>
      findLongTasks(recorded(name), DEFAULT_THRESHOLDS).filter(
        ({ label, startMs }) => startMs > 1000 && /departures/.test(label),
      );
    expect(polls('departures-poll').length).toBeGreaterThanOrEqual(2);
    expect(polls('departures-poll-mended')).toEqual([]);
  });

  it('a drag is one run of late frames, with its hangs and forced layouts as parts of it', () => {
    const stings = findStings(recorded('deck-drag'), DEFAULT_THRESHOLDS);
    const drags = stings.filter(({ label }) => label === 'Listener onDragMove');
    expect(drags.map(({ kind }) => kind)).toEqual(['late-frames']);
    expect(drags[0]!.also).toEqual(expect.arrayContaining(['forced-layout']));
  });

  it('the ticker is told as what it is, layout in every frame, and not as work in vain', () => {
    const idle = findIdleWork(recorded('ticker'), DEFAULT_THRESHOLDS).map(({ label }) => label);
    expect(idle.filter((label) => label.includes('moveNotice'))).toEqual([]);
    const [moved] = findMovedByLayout(recorded('ticker'), DEFAULT_THRESHOLDS);
    expect(moved!.feltMs).toBeGreaterThan(20);
    expect(moved!.detail).toMatchObject({ type: 'moved-by-layout', target: 'element “Notice text”' });
  });
});
