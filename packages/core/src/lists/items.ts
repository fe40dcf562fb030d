/** Items that must be there. Where one is not, the error says which was asked for, and of how many. */

/** @throws RangeError where there is none */
export function itemAt<Item>(list: ArrayLike<Item>, index: number): Item {
  const item = list[index];
  if (item === undefined) throw new RangeError(`there is no item ${index} among ${list.length}`);
  return item;
}

/** @throws RangeError where there is none */
export function first<Item>(list: ArrayLike<Item>): Item {
  return itemAt(list, 0);
}

/** @throws RangeError where there is none */
export function last<Item>(list: ArrayLike<Item>): Item {
  return itemAt(list, list.length - 1);
}

/** @throws RangeError where the map has no such key */
export function known<Key, Value>(map: ReadonlyMap<Key, Value>, key: Key): Value {
  const value = map.get(key);
  if (value === undefined) throw new RangeError(`${String(key)} is not among the ${map.size} that are known`);
  return value;
}
