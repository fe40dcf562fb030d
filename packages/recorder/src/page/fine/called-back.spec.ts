import { beforeEach, describe, expect, it, vi } from 'vitest';
import { HANDLER, LINE, LookingThread, OTHER_LINE } from './testing/looking-thread';
import { clock } from './testing/clock';

vi.mock('../natives', async () => (await import('./testing/clock')).clockOfThread);

let { enter, leave, line, callOut, turns, stacks } = new LookingThread();

beforeEach(() => {
  ({ enter, leave, line, callOut, turns, stacks } = new LookingThread());
});

const CALLED_BACK = 101;
const CALLED_NEXT = 102;

describe('looks at a line that is called back to', () => {
  /** Calls out of a line that call back: the last of them, or what is called next from that line, takes long. */
  const callingBack = () => {
    enter(HANDLER);
    callOut(LINE, 0.1);
    for (let call = 0; call < 5; call++) {
      clock.nowMs += 0.1;
      enter(CALLED_BACK);
      clock.nowMs += 0.1;
      leave();
    }
    clock.nowMs += 40;
  };

  it.each([
    ['the next line calls', () => line(OTHER_LINE)],
    ['the next line was reached by a look at a call', () => callOut(OTHER_LINE, 0)],
  ])('charge what a line goes on calling when it was called back to that line: %s', (_how, goOn) => {
    callingBack();
    goOn();
    enter(CALLED_NEXT);
    turns(30, 0.4);
    leave();
    leave();
    expect(stacks()[`${LINE}`]).toBeGreaterThanOrEqual(39);
  });

  it('charge it to that line where its function ends with it', () => {
    callingBack();
    leave();
    expect(stacks()[`${LINE}`]).toBeGreaterThanOrEqual(39);
  });

  it('charge what takes long in what is called back to that', () => {
    enter(HANDLER);
    callOut(LINE, 0.1);
    enter(CALLED_BACK);
    turns(60, 0.4);
    leave();
    line(OTHER_LINE);
    turns(60, 0.4);
    leave();
    const counts = stacks();
    expect(counts[`${LINE},${CALLED_BACK}`]).toBeGreaterThanOrEqual(22);
    expect(counts[`${OTHER_LINE}`]).toBeGreaterThanOrEqual(22);
  });
});
