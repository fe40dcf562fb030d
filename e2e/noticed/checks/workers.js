{
  const blob = (text) => URL.createObjectURL(new Blob([text], { type: 'text/javascript' }));
  /** What a worker says at `port`, and whether it fails: so much is waited for, and for a moment what more may come. */
  const said = (worker, wanted = 2, port = worker) =>
    new Promise((resolve) => {
      const notes = [];
      const end = () => (worker.terminate?.(), resolve(notes));
      const late = setTimeout(end, 4000);
      const note = (one) => {
        if (notes.push(one) !== wanted) return;
        clearTimeout(late);
        setTimeout(end, 300);
      };
      port.onmessage = ({ data }) => note(data);
      worker.onerror = (event) => {
        event.preventDefault();
        note(['error', event.message]);
      };
      port.postMessage('from the page');
    });
  const ECHO = 'onmessage = ({ data, ports }) => postMessage([data, ports.length]); postMessage("ready");';
  check('worker: none and bad arguments', () => [
    outcome(() => typeof new Worker()),
    outcome(() => typeof new Worker('http://')),
    outcome(() => typeof new Worker(Symbol('x'))),
    outcome(() => typeof new Worker('/echo.js', 5)),
    outcome(() => typeof new Worker('/echo.js', { type: 'bad' })),
    outcome(() => typeof Worker('/echo.js')),
    outcome(() => typeof new SharedWorker()),
    outcome(() => typeof new Worker('https://elsewhere.example/x.js')),
    outcome(
      () =>
        new Worker({
          toString: () => {
            throw new RangeError('own');
          },
        }),
    ),
  ]);
  check('worker: of a file', () => said(new Worker('/echo.js')));
  check('worker: of an address', () => said(new Worker(new URL('/echo.js', location.href))));
  check('worker: a module', () => said(new Worker('/echo.js', { type: 'module', name: 'deck' })));
  check('worker: of a blob', () => said(new Worker(blob(ECHO))));
  check('worker: of a data address', () =>
    said(new Worker(`data:text/javascript,${encodeURIComponent(ECHO)}`)),
  );
  check('worker: a file that is not there', () => said(new Worker('/missing'), 1));
  check('worker: an error of its own', () =>
    said(new Worker(blob('setTimeout(() => { throw new RangeError("own") });')), 1),
  );
  check('worker: the address is converted once', async () => {
    const { given, count } = converted('/echo.js');
    return [await said(new Worker(given)), count.times];
  });
  check('worker: options are read once', async () => {
    const notes = [];
    const options = {};
    for (const name of ['credentials', 'name', 'type'])
      Object.defineProperty(options, name, { get: () => void notes.push(name) });
    return [await said(new Worker('/echo.js', options)), notes];
  });
  check('worker: instances', () => {
    class Own extends Worker {
      lane() {
        return 3;
      }
    }
    const own = new Own('/echo.js');
    const seen = [
      own.lane(),
      own instanceof Worker,
      own.constructor === Own,
      Object.keys(own).length,
      String(own),
    ];
    own.terminate();
    return seen;
  });
  check('worker: what it can see of itself', () =>
    said(
      new Worker(
        blob(`postMessage([self.name, typeof onmessage, String(setTimeout), 'prototype' in setTimeout, Object.keys(self).filter((key) => /nettle|__np/.test(key)),
          String(MessageChannel), (function () { return this === undefined; })(), location.protocol]);`),
        { name: 'deck' },
      ),
      1,
    ),
  );
  check('worker: strict callbacks and listeners', () =>
    said(
      new Worker(
        blob(`setTimeout(function () { 'use strict'; postMessage(['timer', this === self]); });
          queueMicrotask(function () { 'use strict'; postMessage(['microtask', this === undefined]); });
          addEventListener('message', function (event) { 'use strict'; postMessage([this === self, event.data, arguments.length]); });
          onmessage = null; postMessage(onmessage === null);`),
      ),
      4,
    ),
  );
  check('shared worker', async () => {
    if (!window.SharedWorker) return 'none';
    const worker = new SharedWorker('/shared.js', 'deck');
    return [await said(worker, 2, worker.port), worker instanceof SharedWorker];
  });
}
