/** @jsxImportSource preact */
/** An editor: the ship's handbook, with an outline and a word count beside the text. */
import { basicSetup, EditorView } from 'codemirror';
import { markdown } from '@codemirror/lang-markdown';
import { render } from 'preact';
import { useEffect, useRef, useState } from 'preact/hooks';
import { numbers, quiet, sentence } from './world.js';

const next = numbers(3);
const HANDBOOK = Array.from({ length: quiet ? 3000 : 20_000 }, (_, line) =>
  line % 20 === 0 ? `## ${sentence(next, 4)}` : sentence(next, 14),
).join('\n');

/** Words that are written twice in a row or more than a hundred times. */
function findRepeats(text) {
  const counts = {};
  const repeats = [];
  for (const line of text.split('\n')) {
    const words = line
      .toLowerCase()
      .normalize('NFD')
      .replace(/[^a-z ]/g, '')
      .split(' ');
    words.forEach((word, at) => {
      counts[word] = (counts[word] ?? 0) + 1;
      if (word === words[at - 1]) repeats.push(`${word}:${counts[word]}`);
    });
  }
  return repeats;
}

function readHeadings(text) {
  return text
    .split('\n')
    .map((line, number) => ({ line, number }))
    .filter(({ line }) => line.startsWith('#'));
}

function Heading({ heading }) {
  const row = useRef(null);
  useEffect(() => {
    if (quiet) return;
    row.current.style.paddingInlineStart = `${Math.min(20, row.current.offsetHeight / 4)}px`;
  });
  return <li ref={row}>{heading.line.slice(3)}</li>;
}

function Outline({ headings }) {
  return (
    <ol>
      {headings.map((heading) => (
        <Heading key={heading.number} heading={heading} />
      ))}
    </ol>
  );
}

function Handbook() {
  const place = useRef(null);
  const [text, setText] = useState(HANDBOOK);
  const [headings, setHeadings] = useState(() => readHeadings(HANDBOOK));
  const [repeats, setRepeats] = useState(0);
  useEffect(() => {
    const changed = EditorView.updateListener.of((update) => {
      if (update.docChanged) setText(update.state.doc.toString());
    });
    const view = new EditorView({
      doc: HANDBOOK,
      extensions: [basicSetup, markdown(), ...(quiet ? [] : [changed])],
      parent: place.current,
    });
    view.dom.style.height = '500px';
    return () => view.destroy();
  }, []);
  useEffect(() => {
    if (quiet) return;
    setHeadings(readHeadings(text));
    setRepeats(findRepeats(text).length);
  }, [text]);
  return (
    <div style="display:grid;grid-template-columns:3fr 1fr;height:560px;overflow:hidden">
      <div id="text" ref={place} />
      <aside style="overflow:auto">
        <p>{repeats} repeats</p>
        <Outline headings={quiet ? headings.slice(0, 30) : headings} />
      </aside>
    </div>
  );
}

render(<Handbook />, document.body);
