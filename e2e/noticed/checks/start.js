/** What a page can ask about the browser it runs in, by name. Each answer must be the same with a recorder as without. */
const checks = [];

/** @param ask gives what is compared, or a promise of it; what it throws is compared too */
function check(name, ask) {
  checks.push({ name, ask });
}

const pause = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
const told = (error) => `${error?.constructor?.name}: ${error?.message}`;
/** What a call throws, in words, or what it gives. */
const outcome = (call) => {
  try {
    return { gave: call() };
  } catch (error) {
    return { threw: told(error) };
  }
};
const settled = (promise) =>
  promise.then(
    (value) => ({ gave: value }),
    (error) => ({ rejected: told(error) }),
  );
/** The messages of errors nobody caught while something is done. */
async function uncaught(act, ms = 60) {
  const messages = [];
  const hear = (event) => {
    messages.push([
      event.type,
      event.message ?? told(event.reason),
      event.error === undefined ? '' : told(event.error),
    ]);
    event.preventDefault();
  };
  for (const type of ['error', 'unhandledrejection']) addEventListener(type, hear);
  act();
  await pause(ms);
  for (const type of ['error', 'unhandledrejection']) removeEventListener(type, hear);
  return messages;
}
/** Counts the conversions of a value that is given as an argument. */
function converted(value) {
  const count = { times: 0 };
  const given = { toString: () => (count.times++, String(value)), valueOf: () => (count.times++, value) };
  return { given, count };
}

/** Answers all, and tells on `body` which of as many parts (`PARTS`, which the page sets) it has come to. */
async function answerAll() {
  const answers = {};
  if (checks.length > 2 * PARTS) throw new Error(`${checks.length} checks are more than ${PARTS} pairs`);
  let part = 0;
  for (const [at, { name, ask }] of checks.entries()) {
    while (part < ((at + 1) * PARTS) / checks.length) document.body.classList.add(`part-${part++}`);
    let late;
    const limit = new Promise((resolve) => (late = setTimeout(resolve, 5000, { late: true })));
    answers[name] = await Promise.race([
      limit,
      (async () => ask())().catch((error) => ({ threw: told(error) })),
    ]);
    clearTimeout(late);
  }
  await fetch('/answers', { method: 'POST', body: JSON.stringify(answers) });
  document.body.id = 'done';
}
