/** Something that happens once, or fails, and may have done so before anybody waits for it. */
export interface Signal {
  readonly done: Promise<void>;
  give(): void;
  fail(error: Error): void;
}

export function signal(): Signal {
  let give!: () => void;
  let fail!: (error: Error) => void;
  const done = new Promise<void>((resolve, reject) => {
    give = resolve;
    fail = reject;
  });
  // Whoever waits is told; a failure that nobody waits for ends nothing.
  done.catch(() => undefined);
  return { done, give, fail };
}
