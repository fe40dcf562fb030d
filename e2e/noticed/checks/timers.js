{
  const thisOf = (schedule) =>
    new Promise((resolve) =>
      schedule(function () {
        'use strict';
        const given = this === undefined ? 'undefined' : this === window ? 'window' : typeof this;
        resolve([given, [...arguments].map((argument) => typeof argument)]);
      }),
    );
  const sloppyThisOf = (schedule) =>
    new Promise((resolve) =>
      schedule(function () {
        resolve(this === window);
      }),
    );
  const SCHEDULERS = {
    setTimeout: (f) => setTimeout(f, 0, 1, 'two'),
    setInterval: (f) => {
      const handle = setInterval((...args) => (clearInterval(handle), f(...args)), 1, 1);
    },
    'setInterval itself': (f) => {
      const handle = setInterval(f, 1, 1);
      setTimeout(() => clearInterval(handle), 30);
    },
    requestAnimationFrame: (f) => requestAnimationFrame(f),
    requestIdleCallback: (f) => (window.requestIdleCallback ? requestIdleCallback(f, { timeout: 200 }) : f()),
    queueMicrotask: (f) => queueMicrotask(f),
  };
  for (const [name, schedule] of Object.entries(SCHEDULERS)) {
    check(`${name}: this and arguments`, () => thisOf(schedule));
    check(`${name}: this of a sloppy function`, () => sloppyThisOf(schedule));
    if (name === 'setInterval itself') continue;
    check(`${name}: an error is heard`, () =>
      uncaught(
        () =>
          schedule(() => {
            throw new RangeError(`own of ${name}`);
          }),
        250,
      ),
    );
  }
  for (const [name, Observer] of Object.entries({ MutationObserver: window.MutationObserver })) {
    check(
      `${name}: this and arguments`,
      () =>
        new Promise((resolve) => {
          const element = document.createElement('i');
          const observer = new Observer(function (records, second) {
            'use strict';
            resolve([
              this === observer,
              second === observer,
              records.length,
              arguments.length,
              records[0].attributeName,
            ]);
          });
          observer.observe(element, { attributes: true });
          element.id = 'changed';
        }),
    );
  }
  check(
    'ResizeObserver: this and arguments',
    () =>
      new Promise((resolve) => {
        const element = document.body.appendChild(document.createElement('div'));
        const observer = new ResizeObserver(function (entries, second) {
          'use strict';
          observer.disconnect();
          element.remove();
          resolve([this === observer, second === observer, entries.length]);
        });
        observer.observe(element);
      }),
  );
  check(
    'PerformanceObserver: this, arguments and what is supported',
    () =>
      new Promise((resolve) => {
        const observer = new PerformanceObserver(function (list, second) {
          'use strict';
          observer.disconnect();
          resolve([
            this === observer,
            second === observer,
            list.getEntries().map((entry) => entry.name),
            PerformanceObserver.supportedEntryTypes.length,
          ]);
        });
        observer.observe({ entryTypes: ['mark'] });
        performance.mark('checked');
      }),
  );
  check('queueMicrotask keeps its place', async () => {
    const notes = [];
    Promise.resolve().then(() => notes.push('promise 1'));
    queueMicrotask(() => notes.push('microtask 1'));
    Promise.resolve().then(() => notes.push('promise 2'));
    queueMicrotask(() => notes.push('microtask 2'));
    await pause(1);
    return notes;
  });
  check('setTimeout: delays are converted once', async () => {
    const { given, count } = converted(1);
    await new Promise((resolve) => setTimeout(resolve, given));
    return count.times;
  });
  check('setInterval: delays are converted once', async () => {
    const { given, count } = converted(1);
    await new Promise((resolve) => {
      const handle = setInterval(() => (clearInterval(handle), resolve()), given);
    });
    return count.times;
  });
  check('setTimeout: delays that cannot be converted', () => [
    outcome(() => typeof setTimeout(() => {}, Symbol('x'))),
    outcome(() => typeof setTimeout(() => {}, 1n)),
    outcome(
      () =>
        typeof setTimeout(() => {}, {
          valueOf: () => {
            throw new RangeError('own');
          },
        }),
    ),
  ]);
  check('setTimeout: what is no function', async () => {
    window.checkedText = 0;
    setTimeout('window.checkedText++', 0);
    const { given, count } = converted('window.checkedText++');
    setTimeout(given, 0);
    setTimeout(undefined, 0);
    await pause(40);
    return [window.checkedText, count.times];
  });
  check('setTimeout: none and bad arguments', () => [
    outcome(() => setTimeout()),
    outcome(() => requestAnimationFrame()),
    outcome(() => requestAnimationFrame(5)),
    outcome(() => queueMicrotask()),
    outcome(() => queueMicrotask({})),
    outcome(() => window.requestIdleCallback?.()),
    outcome(() => cancelAnimationFrame()),
    outcome(() => cancelAnimationFrame(987654)),
    outcome(() => clearTimeout()),
  ]);
  check('setTimeout on what is no window', () => [
    outcome(() => typeof setTimeout.call({}, () => {})),
    outcome(() => typeof setTimeout.call(undefined, () => {})),
    outcome(() => typeof setTimeout.call(null, () => {})),
    outcome(() => requestAnimationFrame.call({}, () => {})),
    outcome(() => queueMicrotask.call({}, () => {})),
  ]);
  check('cancelAnimationFrame: the handle is converted once', async () => {
    let ran = 0;
    const handle = requestAnimationFrame(() => ran++);
    const { given, count } = converted(handle);
    cancelAnimationFrame(given);
    await pause(60);
    return [ran, count.times];
  });
  check('handles are numbers that go up', () => {
    const [first, second] = [setTimeout(() => {}), setTimeout(() => {})];
    return [typeof first, second > first];
  });
  check('order: microtasks, timers, messages, frames within a task', async () => {
    const notes = [];
    setTimeout(() => notes.push('timer'), 0);
    queueMicrotask(() => notes.push('microtask'));
    Promise.resolve().then(() => notes.push('promise'));
    notes.push('now');
    await pause(60);
    return notes;
  });
  check('frames: one time stamp for all callbacks, the next frame for those asked for within', async () => {
    const stamps = [];
    await new Promise((resolve) => {
      requestAnimationFrame((first) => {
        stamps.push(first);
        requestAnimationFrame((third) => {
          stamps.push(third);
          resolve();
        });
      });
      requestAnimationFrame((second) => stamps.push(second));
    });
    return [stamps[0] === stamps[1], stamps[2] > stamps[1]];
  });
  check('frames: one cancels the next of its frame', async () => {
    const notes = [];
    requestAnimationFrame(() => (notes.push('first'), cancelAnimationFrame(second)));
    const second = requestAnimationFrame(() => notes.push('second'));
    await pause(80);
    return notes;
  });
  check('messages: order, transfer and target', async () => {
    const { port1, port2 } = new MessageChannel();
    const notes = [];
    port2.onmessage = (event) => notes.push([event.data, event.target === port2, event.ports.length]);
    port1.postMessage(1);
    port1.postMessage(2, []);
    port1.postMessage(3, { transfer: [new MessageChannel().port1] });
    const bytes = new ArrayBuffer(8);
    port1.postMessage('bytes', [bytes]);
    await pause(60);
    return [notes, bytes.byteLength];
  });
  check('messages: what cannot be sent', () => {
    const { port1 } = new MessageChannel();
    return [
      outcome(() => port1.postMessage(() => {})),
      outcome(() => port1.postMessage()),
      outcome(() => MessagePort.prototype.postMessage.call({}, 1)),
      outcome(() => MessagePort.prototype.postMessage.call(undefined, 1)),
    ];
  });
  check('messages: a port that was sent away', async () => {
    const channel = new MessageChannel();
    const carrier = new MessageChannel();
    const notes = [];
    carrier.port2.onmessage = ({ ports: [port] }) => {
      port.onmessage = ({ data }) => notes.push(data);
    };
    carrier.port1.postMessage('take', [channel.port2]);
    channel.port1.postMessage('through');
    await pause(60);
    return notes;
  });
  check('window.postMessage', async () => {
    const notes = [];
    const hear = (event) =>
      notes.push([event.data, event.origin === location.origin, event.source === window]);
    addEventListener('message', hear);
    postMessage('to all', '*');
    postMessage('to own');
    await pause(50);
    removeEventListener('message', hear);
    return notes;
  });
}
