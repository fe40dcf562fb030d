import { RangeSetBuilder, type Extension } from '@codemirror/state';
import { Decoration, EditorView, GutterMarker, gutter } from '@codemirror/view';
import type { ShownLine } from '../../workers/analysis/queries/source-queries';
import { countText, msFigure } from '@nettle-patch/core';

/** Below this a time is not worth a figure. Milliseconds. */
const WORTH_MS = 0.005;
/** Shares of the dearest line from which a line is coloured, the strongest last. */
const HEATS = [0.02, 0.1, 0.3, 0.6] as const;

class FigureMarker extends GutterMarker {
  constructor(
    private readonly text: string,
    private readonly title: string,
    private readonly className: string,
  ) {
    super();
  }

  override eq(other: FigureMarker): boolean {
    return this.text === other.text && this.title === other.title;
  }

  override toDOM(): Node {
    const element = document.createElement('span');
    element.textContent = this.text;
    element.title = this.title;
    element.className = this.className;
    return element;
  }
}

const msWords = (ms: number) => (ms < WORTH_MS ? '' : msFigure(ms));

interface Column {
  readonly name: string;
  readonly widest: string;
  readonly figure: (line: ShownLine) => string;
  readonly title: (line: ShownLine) => string;
}

const COLUMNS: readonly Column[] = [
  {
    name: 'self ms',
    widest: '00000.0',
    figure: ({ selfMs }) => msWords(selfMs),
    title: ({ selfMs, names }) => `${names.join(', ')}: ${selfMs.toFixed(3)} ms in its own code`,
  },
  {
    name: 'total ms',
    widest: '00000.0',
    figure: ({ totalMs }) => msWords(totalMs),
    title: ({ totalMs, names }) => `${names.join(', ')}: ${totalMs.toFixed(3)} ms with all it called`,
  },
  {
    name: 'calls',
    widest: '0,000,000',
    figure: ({ count }) => (count === 0 ? '' : countText(count)),
    title: ({ count }) => `called ${countText(count)} times`,
  },
  {
    name: 'forced',
    widest: '00,000×',
    figure: ({ forcedCount }) => (forcedCount === 0 ? '' : `${countText(forcedCount)}×`),
    title: ({ forcedCount, forcedMs }) =>
      `layout forced here ${countText(forcedCount)} times, ${forcedMs.toFixed(1)} ms`,
  },
];

/** The columns beside the lines that have a figure in them, from the left. */
export function costColumns(lines: readonly ShownLine[]): readonly Column[] {
  return COLUMNS.filter(({ figure }) => lines.some((line) => figure(line) !== ''));
}

function costGutter(
  byLine: ReadonlyMap<number, ShownLine>,
  { name, widest, figure, title }: Column,
): Extension {
  return gutter({
    class: `cost ${name.split(' ')[0]}`,
    initialSpacer: () => new FigureMarker(widest, '', 'figure'),
    lineMarker(view, block) {
      const line = byLine.get(view.state.doc.lineAt(block.from).number);
      const text = line === undefined ? '' : figure(line);
      return line === undefined || text === '' ? null : new FigureMarker(text, title(line), 'figure');
    },
  });
}

/** What each line cost, in columns beside it. */
export function costGutters(lines: readonly ShownLine[]): Extension {
  const byLine = new Map(lines.map((line) => [line.line, line]));
  return costColumns(lines).map((column) => costGutter(byLine, column));
}

/** Lines coloured by what they cost, and those where layout was forced marked. */
export function hotLines(lines: readonly ShownLine[]): Extension {
  const dearest = Math.max(WORTH_MS, ...lines.map(({ selfMs }) => selfMs));
  const classes = new Map(
    lines.map(({ line, selfMs, forcedCount }) => {
      const heat = HEATS.filter((share) => selfMs / dearest >= share).length;
      return [line, `${heat > 0 ? `heat-${heat}` : ''} ${forcedCount > 0 ? 'forces' : ''}`.trim()];
    }),
  );
  return EditorView.decorations.compute(['doc'], (state) => {
    const builder = new RangeSetBuilder<Decoration>();
    for (const [line, className] of [...classes].sort(([a], [b]) => a - b)) {
      if (line < 1 || line > state.doc.lines || className === '') continue;
      const { from } = state.doc.line(line);
      builder.add(from, from, Decoration.line({ class: className }));
    }
    return builder.finish();
  });
}
