/** Something in the time view: its lane, and its number there. */
export interface ItemRef {
  readonly lane: string;
  readonly ref: number;
}

/** How it stands in the address. */
export function itemParameter(lane: string, ref: number): string {
  return `${lane.replace(' ', '-')}.${ref}`;
}

/** Reads it from the address; undefined when it makes no sense. */
export function readItem(parameter: string | undefined): ItemRef | undefined {
  const [, lane, ref] = /^([a-z]+(?:-\d+)?)\.(-?\d{1,10})$/.exec(parameter ?? '') ?? [];
  return lane === undefined ? undefined : { lane: lane.replace('-', ' '), ref: Number(ref) };
}
