import { describe, expect, it } from 'vitest';
import { recorded } from '../testing/recorded';
import { creep } from '../detectors/creep';
import type { Detector } from '../detectors/detector';
import { findStings } from '../detectors/index';
import { forcedLayout } from '../detectors/forced-layout';
import { hang } from '../detectors/hang';
import { idleWork } from '../detectors/idle-work';
import { lateFrames } from '../detectors/late-frames';
import { longTask } from '../detectors/long-task';
import { movedByLayout } from '../detectors/moved-by-layout';
import { slowResponse } from '../detectors/slow-response';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { tooOften } from '../detectors/too-often';

/** While the desk starts it builds its index and draws everything once, mended or not. */
const STARTED_MS = 1000;

/** What a detector finds, without what every page does while it starts and answers come in. */
function found(detect: Detector, name: string): string[] {
  return detect
    .find(recorded(name), DEFAULT_THRESHOLDS)
    .filter(({ endMs }) => endMs > STARTED_MS || name.startsWith('start-up'))
    .map(({ label }) => label)
    .filter((label) => !/Response\.|Answer to|^Frame callback$|recorder|in parseDepartures/.test(label));
}

const CASES: [kind: string, detect: Detector, fault: string, label: string | RegExp][] = [
  ['slow response', slowResponse, 'manifest-search', /^Type in search field “Search manifest”$/],
  ['slow response', slowResponse, 'board-all', /^Tap button “Board all”$/],
  ['hang', hang, 'board-all', 'Listener onBoardAll'],
  ['hang', hang, 'start-up', 'Script fares.js'],
  ['late frames', lateFrames, 'deck-drag', 'Listener onDragMove'],
  ['forced layout', forcedLayout, 'deck-drag', 'Layout forced by makeRoomOneByOne'],
  ['idle work', idleWork, 'tide-chart', 'Idle work of drawTideInEveryFrame'],
  ['idle work', idleWork, 'departures-poll', 'Idle work of loadDepartures'],
  ['idle work', movedByLayout, 'ticker', 'Layout in every frame by moveNotice'],
  ['creep', creep, 'deck-log', /^Growing cost of anonymous in constructor$/],
  ['too often', tooOften, 'board-all-exact', 'Too many calls of bendingOfPair'],
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
      longTask
        .find(recorded(name), DEFAULT_THRESHOLDS)
        .filter(({ label, startMs }) => startMs > 1000 && /departures/.test(label));
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
    const idle = idleWork.find(recorded('ticker'), DEFAULT_THRESHOLDS).map(({ label }) => label);
    expect(idle.filter((label) => label.includes('moveNotice'))).toEqual([]);
    const [moved] = movedByLayout.find(recorded('ticker'), DEFAULT_THRESHOLDS);
    expect(moved!.feltMs).toBeGreaterThan(20);
    expect(moved!.detail).toMatchObject({ type: 'moved-by-layout', target: 'element “Notice text”' });
  });
});
