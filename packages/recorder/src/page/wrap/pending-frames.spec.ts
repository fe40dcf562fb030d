import { expect, it, vi } from 'vitest';
import { PendingFrames } from './pending-frames';

function runFrame(frames: PendingFrames, handles: readonly number[], within: (handle: number) => void): void {
  for (const handle of handles) {
    frames.begin(handle);
    within(handle);
    frames.ran(handle);
  }
}

it('tells the end of every frame, though each callback asks for the next frame', () => {
  const frames = new PendingFrames();
  const last = vi.fn<() => void>();
  frames.onLast(last);
  frames.add(1);
  frames.add(2);
  for (let frame = 0; frame < 5; frame++) {
    const handles = [2 * frame + 1, 2 * frame + 2];
    runFrame(frames, handles, (handle) => {
      expect(last).toHaveBeenCalledTimes(frame);
      frames.add(handle + 2);
    });
  }
  expect(last).toHaveBeenCalledTimes(5);
});

it('takes a callback that is cancelled by one before it for done', () => {
  const frames = new PendingFrames();
  const last = vi.fn<() => void>();
  frames.onLast(last);
  frames.add(1);
  frames.add(2);
  frames.begin(1);
  frames.cancel(2);
  frames.ran(1);
  expect(last).toHaveBeenCalledTimes(1);
});
