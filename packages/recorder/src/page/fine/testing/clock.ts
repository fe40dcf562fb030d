/** What the clock says, and the steps that it goes in; 0 where there are none. Milliseconds. */
export const clock = { nowMs: 0, stepMs: 0 };

/** In place of the natives: the clock above. */
export const clockOfThread = {
  now: () => (clock.stepMs === 0 ? clock.nowMs : Math.floor(clock.nowMs / clock.stepMs) * clock.stepMs),
};
