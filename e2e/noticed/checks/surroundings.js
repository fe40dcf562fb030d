{
  /** Whether the function that called the one that calls this is none of the page's own. */
  const isCalledByOthers = () => {
    const frames = new Error().stack.split('\n').filter((line) => /:\d+:\d+/.test(line));
    return frames[2]?.includes('/__nettle-patch/') ?? false;
  };
  /** How often functions that the app put in place of the engine's own are called by others while it is at work. */
  const calledBy = async (owner, name, act) => {
    const descriptor = Object.getOwnPropertyDescriptor(owner, name);
    const original = descriptor.value;
    let calls = 0;
    Object.defineProperty(owner, name, {
      ...descriptor,
      value(...args) {
        if (isCalledByOthers()) calls++;
        return realApply(original, this, args);
      },
    });
    try {
      act();
      await new Promise((resolve) => realTimeout(resolve, 120));
    } finally {
      Object.defineProperty(owner, name, descriptor);
    }
    return calls;
  };
  const realTimeout = setTimeout.bind(window);
  const { apply: realApply } = Reflect;
  const busy = () => {
    const target = new EventTarget();
    target.addEventListener('a', () => {});
    target.dispatchEvent(new Event('a'));
    const element = document.body.appendChild(document.createElement('i'));
    element.style.width = '10px';
    void element.offsetWidth;
    element.remove();
    queueMicrotask(() => {});
  };
  const WATCHED = {
    'performance.now': [Performance.prototype, 'now'],
    setTimeout: [window, 'setTimeout'],
    setInterval: [window, 'setInterval'],
    requestAnimationFrame: [window, 'requestAnimationFrame'],
    'Promise.prototype.then': [Promise.prototype, 'then'],
    'JSON.stringify': [JSON, 'stringify'],
    'Worker.prototype.postMessage': [Worker.prototype, 'postMessage'],
    'MessagePort.prototype.postMessage': [MessagePort.prototype, 'postMessage'],
    'EventTarget.prototype.addEventListener': [EventTarget.prototype, 'addEventListener'],
    'Math.round': [Math, 'round'],
    'Date.now': [Date, 'now'],
    getComputedStyle: [window, 'getComputedStyle'],
    'Element.prototype.getBoundingClientRect': [Element.prototype, 'getBoundingClientRect'],
    'Reflect.apply': [Reflect, 'apply'],
    'Array.prototype.push': [Array.prototype, 'push'],
    'Array.prototype[Symbol.iterator]': [Array.prototype, Symbol.iterator],
    'Map.prototype.get': [Map.prototype, 'get'],
    'WeakMap.prototype.get': [WeakMap.prototype, 'get'],
    'Function.prototype.call': [Function.prototype, 'call'],
    'Function.prototype.apply': [Function.prototype, 'apply'],
    'String.prototype.startsWith': [String.prototype, 'startsWith'],
    'console.log': [console, 'log'],
  };
  for (const [name, [owner, member]] of Object.entries(WATCHED))
    check(`own ${name} is called by nobody else`, () => calledBy(owner, member, busy));
  check('clock set by the app: time stands still and nothing breaks', async () => {
    const { now } = performance;
    performance.now = () => 5;
    busy();
    const seen = [performance.now()];
    delete performance.now;
    seen.push(performance.now === now, performance.now() > 5);
    return seen;
  });
  const watchForced = () => {
    for (let turn = 0; turn < 10; turn++) {
      const element = document.body.appendChild(document.createElement('i'));
      void element.offsetWidth;
      element.remove();
    }
    void document.body.offsetWidth;
  };
  check('Error.stackTraceLimit that cannot be written', () => {
    const descriptor = Object.getOwnPropertyDescriptor(Error, 'stackTraceLimit');
    if (descriptor === undefined) return 'none';
    Object.defineProperty(Error, 'stackTraceLimit', { value: 3, writable: false, configurable: true });
    watchForced();
    const seen = [Error.stackTraceLimit];
    Object.defineProperty(Error, 'stackTraceLimit', descriptor);
    return seen;
  });
  check('Error.stackTraceLimit with a setter', () => {
    const descriptor = Object.getOwnPropertyDescriptor(Error, 'stackTraceLimit');
    if (descriptor === undefined) return 'none';
    const notes = [];
    Object.defineProperty(Error, 'stackTraceLimit', {
      get: () => 10,
      set(value) {
        notes.push(value);
      },
      configurable: true,
    });
    watchForced();
    Object.defineProperty(Error, 'stackTraceLimit', descriptor);
    return notes;
  });
  check('Error.stackTraceLimit stays as it was set', () => {
    const before = Error.stackTraceLimit;
    if (before === undefined) return 'none';
    const seen = [0, 1, 50, Infinity, 'x', undefined].map((value) => {
      Error.stackTraceLimit = value;
      watchForced();
      return Error.stackTraceLimit === value;
    });
    delete Error.stackTraceLimit;
    watchForced();
    seen.push('stackTraceLimit' in Error);
    Error.stackTraceLimit = before;
    return seen;
  });
  check('Error.prepareStackTrace is not called for others', () => {
    const before = Object.getOwnPropertyDescriptor(Error, 'prepareStackTrace');
    let calls = 0;
    Error.prepareStackTrace = (error) => (calls++, String(error));
    watchForced();
    fetch('/data');
    delete Error.prepareStackTrace;
    if (before) Object.defineProperty(Error, 'prepareStackTrace', before);
    return calls;
  });
  check('errors: lines of errors in listeners and timers', async () => {
    const places = [];
    const hear = (event) => {
      places.push([event.filename.split('/').pop(), event.lineno]);
      event.preventDefault();
    };
    addEventListener('error', hear);
    const target = new EventTarget();
    target.addEventListener('a', () => {
      throw new Error('from a listener');
    });
    target.dispatchEvent(new Event('a'));
    setTimeout(() => {
      throw new Error('from a timer');
    });
    await pause(40);
    removeEventListener('error', hear);
    return places;
  });
  check('errors: frames of a stack below the app’s own', async () => {
    let stack = '';
    setTimeout(function deck() {
      stack = new Error('x').stack;
    });
    await pause(30);
    return stack.split('\n').filter((line) => /:\d+/.test(line)).length;
  });
  check('resources that are told of', () =>
    performance
      .getEntriesByType('resource')
      .map(({ name }) => new URL(name).pathname)
      .filter((path) => /nettle|recorder/.test(path)),
  );
  check('resources that an observer is told of', async () => {
    const names = [];
    const observer = new PerformanceObserver((list) =>
      names.push(...list.getEntries().map(({ name }) => new URL(name).pathname)),
    );
    observer.observe({ type: 'resource', buffered: true });
    await pause(150);
    observer.disconnect();
    return names.filter((path) => /nettle|recorder/.test(path));
  });
  check('marks and measures', () => {
    performance.mark('a');
    performance.measure('b', 'a');
    const seen = performance.getEntriesByType('measure').map(({ name }) => name);
    const marks = performance.getEntriesByType('mark').map(({ name }) => name);
    performance.clearMarks();
    performance.clearMeasures();
    return [seen, marks.filter((name) => /nettle/.test(name))];
  });
  check('storage', () => [Object.keys(localStorage), Object.keys(sessionStorage), document.cookie]);
  check('address, referrer, character set, mode', () => [
    location.pathname,
    location.search,
    document.referrer === '' || new URL(document.referrer).pathname,
    document.characterSet,
    document.compatMode,
    document.readyState,
    document.contentType,
    isSecureContext,
    crossOriginIsolated,
  ]);
  check('current script, modules and dynamic import', async () => [
    document.currentScript,
    typeof (await import('/module.js')).lane,
    (await import('/module.js')).name,
  ]);
  check('eval, new Function and strict code', () => [
    eval('(function () { return this === window; })()'),
    new Function('a', 'return a + 1')(2),
    String(new Function('a', 'return a')),
    (function () {
      'use strict';
      return this === undefined;
    })(),
    (function () {
      return arguments.callee.name;
    })(),
  ]);
  check('deep recursion ends in a range error', () => {
    // Many arguments fill the engine's stack with few calls: to leave tens of thousands can take seconds where all are told of.
    const down = (...depths) => down(...depths) + 1;
    return outcome(() => down(...Array.from({ length: 400 }, () => 0))).threw?.split(':')[0];
  });
  check('functions: names, lengths, fields, getters, new.target', () => {
    class Ferry {
      static docks = 2;
      #lanes = [1, 2, 3];
      decks = this.#lanes.map((lane) => lane * 2);
      get first() {
        return this.#lanes[0];
      }
      static {
        Ferry.ready = true;
      }
      load(vehicle, lane = 1, ...others) {
        return [vehicle, lane, others.length, new.target === undefined];
      }
    }
    const ferry = new Ferry();
    function* lanes() {
      const got = yield 1;
      yield got;
    }
    const walk = lanes();
    return [
      Ferry.name,
      Ferry.length,
      ferry.load.length,
      ferry.load('van'),
      ferry.first,
      ferry.decks,
      Ferry.docks,
      Ferry.ready,
      walk.next().value,
      walk.next(7).value,
      walk.return(9),
      String(Ferry.prototype.load),
      (() => {}).name,
      outcome(() => Ferry()),
    ];
  });
}
