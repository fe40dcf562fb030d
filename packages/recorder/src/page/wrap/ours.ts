const own = new WeakSet<object>();

/** Marks a callback as the recorder's own, so that it is passed on as it is and never recorded. */
export function ours<F extends object>(callback: F): F {
  own.add(callback);
  return callback;
}

export function isOurs(callback: object): boolean {
  return own.has(callback);
}
