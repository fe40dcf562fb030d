import { RangeSetBuilder, type Extension } from '@codemirror/state';
import { Decoration, EditorView, GutterMarker, gutter } from '@codemirror/view';
import type { ShownLine } from '../../workers/analysis/queries/source-queries';
import { countText, msFigure, msText, percentText } from '@nettle-patch/core';
import { countWords, forcedWords, selfWords, totalWords } from './line-words';

/** Below this a time is not worth a figure. Milliseconds. */
const WORTH_MS = 0.005;
/** Shares of the dearest line from which a line is coloured, the strongest last. */
const MIN_SHARE = 0.005;
const HEATS = [0.02, 0.1, 0.3, 0.6] as const;

class FigureMarker extends GutterMarker {
  /** @param share of the length of a whole bar, 0 for none */
  constructor(
    private readonly text: string,
    private readonly title: string,
    private readonly className: string,
    private readonly share = 0,
  ) {
    super();
  }

  override eq(other: FigureMarker): boolean {
    return this.text === other.text && this.title === other.title && this.share === other.share;
  }

  override toDOM(): Node {
    const element = document.createElement('span');
    element.textContent = this.text;
    element.title = this.title;
    element.className = this.className;
    if (this.share > 0) {
      const bar = document.createElement('i');
      bar.style.width = `${this.share * 100}%`;
      element.prepend(bar);
    }
    return element;
  }
}

const msWords = (ms: number) => (ms < WORTH_MS ? '' : msFigure(ms));

interface Column {
  readonly name: string;
  readonly widest: string;
  readonly figure: (line: ShownLine) => string;
  readonly title: (line: ShownLine) => string;
  /** Whether a bar shows the figure, as long as that is of the largest. */
  readonly bar?: (line: ShownLine) => number;
}

const calledWords = ({ calls }: ShownLine) =>
  calls.map(({ name, totalMs }) => `\ncalls ${name}: ${msText(totalMs)}`).join('');

const COLUMNS: readonly Column[] = [
  {
    name: 'self ms',
    widest: '00000.0',
    figure: ({ selfMs, samples }) => (samples > 0 ? countText(selfMs) : msWords(selfMs)),
    title: selfWords,
    bar: ({ selfMs }) => selfMs,
  },
  {
    name: 'share',
    widest: '100 %',
    figure: ({ share }) => (share < MIN_SHARE ? '' : percentText(share)),
    title: ({ share }) => `${percentText(share)} of the own time of its function`,
  },
  {
    name: 'total ms',
    widest: '00000.0',
    figure: ({ totalMs }) => msWords(totalMs),
    title: (line) => totalWords(line) + calledWords(line),
  },
  {
    name: 'calls',
    widest: '0,000,000',
    figure: ({ count }) => (count === 0 ? '' : countText(count)),
    title: countWords,
  },
  {
    name: 'forced',
    widest: '00,000×',
    figure: ({ forcedCount }) => (forcedCount === 0 ? '' : `${countText(forcedCount)}×`),
    title: forcedWords,
  },
];

/** The columns beside the lines that have a figure in them, from the left. */
export function costColumns(lines: readonly ShownLine[]): readonly Column[] {
  return COLUMNS.filter(({ figure }) => lines.some((line) => figure(line) !== ''));
}

function costGutter(
  byLine: ReadonlyMap<number, ShownLine>,
  { name, widest, figure, title, bar }: Column,
): Extension {
  const longest = bar === undefined ? 0 : Math.max(WORTH_MS, ...Array.from(byLine.values(), bar));
  return gutter({
    class: `cost ${name.split(' ')[0]}`,
    initialSpacer: () => new FigureMarker(widest, '', 'figure'),
    lineMarker(view, block) {
      const line = byLine.get(view.state.doc.lineAt(block.from).number);
      const text = line === undefined ? '' : figure(line);
      if (line === undefined || text === '') return null;
      return new FigureMarker(text, title(line), 'figure', bar === undefined ? 0 : bar(line) / longest);
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
