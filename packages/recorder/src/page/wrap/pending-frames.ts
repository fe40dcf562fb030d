/** Counts the app's frame callbacks that are still to come, so that it is known which is the last of a frame. */
export class PendingFrames {
  /** Those asked for; the browser takes all of them into the next frame (HTML, section 8.10). */
  #waiting = new Set<number>();
  /** Those of the frame that is being made which have not run yet. */
  #due = new Set<number>();
  #last: (() => void) | undefined;

  /** @param listener is called when the last one of a frame has run */
  onLast(listener: () => void): void {
    this.#last = listener;
  }

  add(handle: number): void {
    this.#waiting.add(handle);
  }

  cancel(handle: number): void {
    this.#waiting.delete(handle);
    this.#due.delete(handle);
  }

  /** One of them begins to run. */
  begin(handle: number): void {
    if (this.#due.has(handle)) return;
    this.#due = this.#waiting;
    this.#waiting = new Set();
  }

  ran(handle: number): void {
    this.#due.delete(handle);
    if (this.#due.size === 0) this.#last?.();
  }
}
