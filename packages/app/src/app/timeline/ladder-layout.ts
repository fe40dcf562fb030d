import { countText, median, type InteractionRow } from '@nettle-patch/core';

const HEAD_HEIGHT = 30;
const ROW_HEIGHT = 22;
const MOST_ROW_HEIGHT = 34;

/** A line of the ladder: the head of a group of rows, or a row. */
export type LadderLine =
  | {
      readonly type: 'head';
      readonly top: number;
      readonly height: number;
      readonly label: string;
      readonly about: string;
    }
  | {
      readonly type: 'row';
      readonly top: number;
      readonly height: number;
      readonly place: number;
      readonly row: InteractionRow;
    };

/**
 * Lines of the ladder: rows of one label under their head.
 * @param room height there is for them, which the rows fill as far as they may grow. Pixels
 */
export function ladderLines(rows: readonly InteractionRow[], responseMs: number, room = 0): LadderLine[] {
  const heads = rows.filter((row, place) => row.label !== rows[place - 1]?.label).length;
  const forEach = Math.floor((room - heads * HEAD_HEIGHT) / Math.max(1, rows.length));
  const rowHeight = Math.max(ROW_HEIGHT, Math.min(MOST_ROW_HEIGHT, forEach));
  const lines: LadderLine[] = [];
  let top = 0;
  rows.forEach((row, place) => {
    if (row.label !== rows[place - 1]?.label) {
      const same = rows.filter(({ label }) => label === row.label);
      lines.push({
        type: 'head',
        top,
        height: HEAD_HEIGHT,
        label: row.label,
        about: aboutOf(same, responseMs),
      });
      top += HEAD_HEIGHT;
    }
    lines.push({ type: 'row', top, height: rowHeight, place, row });
    top += rowHeight;
  });
  return lines;
}

function aboutOf(rows: readonly InteractionRow[], responseMs: number): string {
  const times = rows.length === 1 ? 'once' : `${rows.length} times`;
  const measured = rows.filter((row) => row.measured).map(({ feltMs }) => feltMs);
  const late = measured.filter((feltMs) => feltMs > responseMs).length;
  if (measured.length === 0) return `${times}, all too short to be measured`;
  const over = late === 0 ? 'none over the budget' : `${late} over the budget of ${responseMs} ms`;
  return `${times}, median ${countText(median(measured))} ms, worst ${countText(Math.max(...measured))} ms, ${over}`;
}

/** Height of all lines together. */
export function ladderHeight(lines: readonly LadderLine[]): number {
  const last = lines.at(-1);
  return last === undefined ? 0 : last.top + last.height;
}

/** The lines that can be seen. */
export function linesIn(lines: readonly LadderLine[], top: number, height: number): LadderLine[] {
  return lines.filter((line) => line.top + line.height > top && line.top < top + height);
}
