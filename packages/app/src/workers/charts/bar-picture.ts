/** A bar chart as it is to be drawn. */
export interface BarPicture {
  readonly labels: readonly string[];
  readonly values: readonly number[];
  /** Colour of the bars. */
  readonly bar: string;
  /** Colour of the figures. */
  readonly ink: string;
  /** Font of the figures, as CSS has it. */
  readonly family: string;
  /** CSS pixels. */
  readonly width: number;
  readonly height: number;
  /** Pixels of the screen to a CSS pixel. */
  readonly scale: number;
}

/** From where to where the bars go, side by side. CSS pixels. */
export interface BarArea {
  readonly left: number;
  readonly right: number;
}

/** Index of the bar at a place; undefined beside all of them. */
export function barAt({ left, right }: BarArea, bars: number, x: number): number | undefined {
  if (x < left || x >= right || bars === 0) return undefined;
  return Math.floor(((x - left) / (right - left)) * bars);
}
