// Functions that take a known time each: every one of them runs until the clock has gone on by so much.
// Their names say what they truly take in one round of the benchmark, see bench/truth.mjs.

function handler05() {
  for (const end = performance.now() + 0.5; performance.now() < end;);
}
function handler2() {
  for (const end = performance.now() + 2; performance.now() < end;);
}
function partFirst() {
  for (const end = performance.now() + 6; performance.now() < end;);
}
function partMiddle() {
  for (const end = performance.now() + 15; performance.now() < end;);
}
function partLast() {
  for (const end = performance.now() + 9; performance.now() < end;);
}
function handler30() {
  partFirst();
  partMiddle();
  partLast();
}
function inner400() {
  for (const end = performance.now() + 320; performance.now() < end;);
}
function handler400() {
  for (const end = performance.now() + 80; performance.now() < end;);
  inner400();
}
function inTimer() {
  for (const end = performance.now() + 12; performance.now() < end;);
}
function afterAnswer() {
  for (const end = performance.now() + 60; performance.now() < end;);
}
function afterPromise() {
  for (const end = performance.now() + 20; performance.now() < end;);
}
function short() {
  for (const end = performance.now() + 0.2; performance.now() < end;);
}
function manyShort() {
  for (let at = 0; at < 200; at++) short();
}
function inFrame() {
  for (const end = performance.now() + 25; performance.now() < end;);
}

/** Lays all rows out anew so often; by itself it takes next to nothing, the layout takes what the page says. */
function forcesLayout() {
  const rows = document.getElementById('rows');
  for (let turn = 0; turn < 12; turn++) {
    rows.style.width = `${400 + (turn % 2) * 7}px`;
    rows.offsetHeight;
  }
}
/** What the layouts take, timed from outside of the function, before anything is recorded and without it. */
function timeLayouts() {
  const startMs = performance.now();
  forcesLayout();
  return performance.now() - startMs;
}
const rows = Object.assign(document.createElement('div'), { id: 'rows' });
for (let row = 0; row < 1500; row++)
  rows.append(Object.assign(document.createElement('span'), { textContent: `row ${row} ` }));
document.body.append(rows);
const worker = new Worker('/truth-worker.js');

const on = (id, listener) => document.getElementById(id).addEventListener('click', listener);
on('quick', () => {
  for (let at = 0; at < 40; at++) setTimeout(handler05, at * 7.3);
  for (let at = 0; at < 40; at++) setTimeout(handler2, 400 + at * 11.7);
});
on('parts', handler30);
on('long', handler400);
on('timers', () => {
  for (let at = 0; at < 10; at++) setTimeout(inTimer, at * 31);
});
on('answer', async () => {
  await (await fetch('/truth.json')).json();
  afterAnswer();
});
on('promise', () => void Promise.resolve().then(afterPromise));
on('short', manyShort);
on('frame', () => requestAnimationFrame(inFrame));
on('layout', () => {
  const ms = timeLayouts();
  fetch('/took', { method: 'POST', body: JSON.stringify({ forcesLayout: ms }) });
});
on('worker', () => worker.postMessage('go'));
document.documentElement.dataset.ready = '';
