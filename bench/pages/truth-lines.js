/**
 * A page whose lines take times that it knows: by the clock around them, or by how much each does of the same. A line that
 * is held against them ends with its name in a comment.
 */
const took = {};
const now = () => performance.now();

function add(name, ms) {
  took[name] = (took[name] ?? 0) + ms;
}

function spin(ms) {
  const end = now() + ms;
  while (now() < end);
}

const digits = (n) => Array.from({ length: n }, (_, at) => (at * 7919) % 1000);
const text = JSON.stringify(digits(400_000));
const words = digits(150_000).join(' ');
const numbers = digits(120_000);

/** Long calls into the engine, one after the other. */
function engineCalls() {
  let from = now();
  const parsed = JSON.parse(text); // parse
  add('parse', now() - from);
  from = now();
  const sorted = [...numbers].sort(); // sort
  add('sort', now() - from);
  from = now();
  const replaced = words.replace(/([0-9])([1-3])/g, '$2$1'); // replace
  add('replace', now() - from);
  from = now();
  const joined = words.split(' ').reverse().join(';'); // split
  add('split', now() - from);
  return parsed.length + sorted.length + replaced.length + joined.length;
}

function goDown(depth) {
  if (depth === 0) {
    spin(12); // bottom
    return 0;
  }
  const below = goDown(depth - 1);
  if (depth === 150) spin(6); // way up
  return below + 1;
}

async function afterWaits() {
  spin(5); // before
  await null;
  spin(10); // after one
  await new Promise((resolve) => setTimeout(resolve, 20));
  spin(15); // after another
}

/** Nearly nothing, very often: what a line does goes by the turns of its loop. */
function short(seed) {
  let value = seed;
  for (let turn = 0; turn < 30; turn++) value = (value * 31 + turn) & 0xffff; // thirty turns
  for (let turn = 0; turn < 90; turn++) value = (value * 31 + turn) & 0xffff; // ninety turns
  return value;
}

function often() {
  let sum = 0;
  const from = now();
  for (let call = 0; call < 250_000; call++) sum += short(call);
  const ms = now() - from;
  const { thirty, ninety } = shares;
  add('thirty turns', (ms * thirty) / (thirty + ninety));
  add('ninety turns', (ms * ninety) / (thirty + ninety));
  return sum;
}

const MARKS = /[\u0300-\u036f]/g;

/**
 * Calls that take some microseconds each, beside calculation that takes as long. Each is timed where it stands: by itself,
 * an engine makes other code of it, which was found to take half the time.
 */
function manyCalls() {
  let length = 0;
  let calculation = 0;
  let calls = 0;
  let from = now();
  for (let item = 0; item < 4000; item++) {
    for (let turn = 0; turn < 1500; turn++) length = (length * 31 + turn) & 0xffff; // calculation
    const between = now();
    length += names[item % 50].normalize('NFD').replace(MARKS, '').length; // many calls
    const until = now();
    calculation += between - from;
    calls += until - between;
    from = until;
  }
  add('calculation', calculation);
  add('many calls', calls);
  return length;
}
const names = Array.from({ length: 50 }, (_, at) => `Håkon Ångström Ærø ${at} é`.repeat(8));

/** Calls on lines of their own within one statement, as where a view is written as a tree of elements. */
function oneStatement() {
  let from = now();
  const until = (name) => {
    add(name, now() - from);
    from = now();
    return name;
  };
  const element = (name, parts) => {
    spin(9);
    return { name, parts };
  };
  // prettier-ignore
  return element( // element
    'list',
    [
      JSON.parse(text).length, // property
      until('property'),
      [...numbers]
        .sort() // chain
        .length,
      until('chain'),
      `${spin(7)} ${ // first of a template
        spin(11)} rows`, // second of a template
      until('between'),
      words.replace(/([0-9])([1-3])/g, '$2$1').length > 3 ? // decided
        until('decided') :
        spin(50),
    ],
  );
}

const marked = (word) => `${word};`;

/** A line that calls into the engine, is called back from there, and calls once more. */
function calledBack() {
  let from = now();
  // prettier-ignore
  const text = words.split(' ').map(marked).join(' ').replace(MARKS, '').replace(/([0-9])([1-3])/g, '$2$1'); // goes on calling
  add('goes on calling', now() - from);
  from = now();
  const length = spun(text); // behind it
  add('behind it', now() - from);
  return length;
}
const spun = (text) => {
  spin(25);
  return text.length;
};

/** What each of two lines takes by itself, in runs that are not held against anything. */
function measureShares() {
  const time = (work) => {
    const from = now();
    work();
    return now() - from;
  };
  let value = 0;
  const turns = (count) =>
    time(() => {
      for (let call = 0; call < 100_000; call++)
        for (let turn = 0; turn < count; turn++) value = (value * 31 + turn) & 0xffff;
    });
  // The first runs are those of an engine that does not know the code yet.
  const runs = Array.from({ length: 5 }, () => ({ thirty: turns(30), ninety: turns(90) }));
  const least = (name) => Math.min(...runs.map((run) => run[name]));
  return { thirty: least('thirty'), ninety: least('ninety'), value };
}

const known = {
  bottom: 12,
  'way up': 6,
  before: 5,
  'after one': 10,
  'after another': 15,
  element: 9,
  'first of a template': 7,
  'second of a template': 11,
};
const addKnown = (...of) => of.forEach((name) => add(name, known[name]));
const handlers = {
  engine: () => engineCalls(),
  deep: () => {
    goDown(300);
    addKnown('bottom', 'way up');
  },
  waits: async () => {
    await afterWaits();
    addKnown('before', 'after one', 'after another');
  },
  often: () => often(),
  many: () => manyCalls(),
  back: () => calledBack(),
  one: () => {
    oneStatement();
    addKnown('element', 'first of a template', 'second of a template');
  },
};
let shares;
measureShares();
shares = measureShares();
for (const [id, handler] of Object.entries(handlers))
  document.getElementById(id).addEventListener('click', handler);
document
  .getElementById('done')
  .addEventListener('click', () => void fetch('/took', { method: 'POST', body: JSON.stringify(took) }));
