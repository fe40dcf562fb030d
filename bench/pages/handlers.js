/** Handlers of several kinds that take their time themselves, each a tap. */
const now = () => performance.now();

/** A function of ten lines that calls nothing, called two million times. */
function tenLines(a, b) {
  let x = a * 3 + b;
  let y = x ^ (b << 2);
  x = (x + y) | 0;
  if (x > 1000) x -= b;
  y = (y * 7 + x) | 0;
  x ^= y >> 3;
  y = (y + a) & 0xffff;
  x = (x * 5) | 0;
  y ^= x;
  return (x + y) | 0;
}

const names = Array.from(
  { length: 12_000 },
  (_, at) => `Håkon Ångström ${at}, Ærø, cabin ${(at * 7919) % 997}`,
);
const answer = JSON.stringify(names.map((name, at) => ({ name, seat: at, tags: [at % 7, at % 11] })));

const handlers = {
  'ten lines, two million times': () => {
    let sum = 0;
    for (let call = 0; call < 2_000_000; call++) sum = (sum + tenLines(call, sum)) | 0;
    return sum;
  },
  'regular expressions': () =>
    names
      .map((name) => name.normalize('NFD').replace(/[\u0300-\u036f]/g, ''))
      .filter((name) => /cabin [1-5]\d*$/.test(name))
      .map((name) => name.replace(/(\w+) (\w+)/g, '$2 $1'))
      .join().length,
  parsing: () => {
    let length = 0;
    for (let turn = 0; turn < 12; turn++) length += JSON.parse(answer).filter(({ seat }) => seat % 2).length;
    return length;
  },
  'a list of 5,000 rows': () => {
    const { createApp, h, nextTick, ref } = globalThis.Vue;
    const turn = ref(0);
    const root = document.getElementById('list');
    const app = createApp({
      render: () =>
        h(
          'ul',
          Array.from({ length: 5000 }, (_, at) =>
            h('li', { key: (at + turn.value) % 5000, class: { odd: at % 2 } }, [
              h('b', `${at}`),
              ` seat ${turn.value}`,
            ]),
          ),
        ),
    });
    app.mount(root);
    turn.value = 1;
    return nextTick(() => app.unmount());
  },
};

async function run() {
  const took = {};
  for (const [name, handler] of Object.entries(handlers)) {
    await handler();
    await new Promise((resolve) => setTimeout(resolve, 150));
    const from = now();
    await handler();
    took[name] = now() - from;
    await new Promise((resolve) => setTimeout(resolve, 150));
  }
  globalThis.took = took;
}
document.getElementById('run').addEventListener('click', run);
