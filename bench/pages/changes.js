/** Work whose cost the recorder may add to most: layout forced again and again, and many changes of the document at once. */
const list = document.getElementById('list');
list.innerHTML = Array.from({ length: 400 }, (_, row) => `<li><b>Lane ${row}</b> <i>free</i></li>`).join('');
const rows = [...list.children];

const WORK = {
  'forced layouts'() {
    let sum = 0;
    for (let turn = 0; turn < 500; turn++) {
      rows[turn % rows.length].style.width = `${200 + (turn % 50)}px`;
      sum += rows[(turn * 7) % rows.length].offsetHeight;
    }
    return sum;
  },
  'changes of attributes'() {
    for (let turn = 0; turn < 20_000; turn++) rows[turn % rows.length].setAttribute('data-turn', turn);
  },
  'changes of texts'() {
    for (let turn = 0; turn < 20_000; turn++) rows[turn % rows.length].lastChild.textContent = `${turn}`;
  },
  'nodes put in and taken out'() {
    for (let turn = 0; turn < 10_000; turn++) {
      const node = document.createElement('u');
      rows[turn % rows.length].appendChild(node);
      node.remove();
    }
  },
};

/** How long each takes, once a press, with what the browser draws of it left out. Milliseconds. */
const taken = [];
document.getElementById('go').addEventListener('click', () => {
  const figures = {};
  for (const [name, work] of Object.entries(WORK)) {
    const startMs = performance.now();
    work();
    figures[name] = performance.now() - startMs;
  }
  taken.push(figures);
  document.getElementById('done').textContent = String(taken.length);
});
document.getElementById('tell').addEventListener('click', () => {
  void fetch('/taken', { method: 'POST', body: JSON.stringify(taken) });
});
