const waiting: (() => void)[] = [];

/** A page that is not shown gets no frames. */
const WITHOUT_FRAMES_MS = 100;

/** Calls back in a task of its own, after the next picture where there are pictures. */
function afterPicture(work: () => void): void {
  let done = false;
  const once = () => {
    if (done) return;
    done = true;
    work();
  };
  requestAnimationFrame(() => setTimeout(once));
  setTimeout(once, WITHOUT_FRAMES_MS);
}

function next(): void {
  const work = waiting.shift();
  try {
    work?.();
  } finally {
    // What fails holds up nothing that comes after it.
    if (waiting.length > 0) afterPicture(next);
  }
}

/**
 * Does work in a task of its own, after what was asked for before and with a picture in between: many pieces never hold
 * up an input, or a frame, together.
 */
export function scheduleTask(work: () => void): void {
  waiting.push(work);
  if (waiting.length === 1) afterPicture(next);
}
