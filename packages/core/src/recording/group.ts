/** Adds a value to the group with a key, which is begun where there is none yet. */
export function appendTo<Key, Value>(groups: Map<Key, Value[]>, key: Key, value: Value): void {
  const group = groups.get(key);
  if (group === undefined) groups.set(key, [value]);
  else group.push(value);
}
