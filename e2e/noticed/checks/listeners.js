{
  const strictThis = function () {
    'use strict';
    return this;
  };
  const fire = (target, type, init) => target.dispatchEvent(new Event(type, init));
  /** What listeners of a new target note while something is done with it. */
  const noted = (act) => {
    const notes = [];
    act(new EventTarget(), (note) => notes.push(note));
    return notes;
  };
  const twice = (name, add) =>
    check(`listener ${name}`, () =>
      noted((target, note) => {
        const listener = (event) => note(event.type);
        add(target, listener, note);
        fire(target, 'a');
        fire(target, 'a');
      }),
    );

  check('listener: this, arguments and event', () =>
    noted((target, note) => {
      target.addEventListener('a', function (...args) {
        note([this === target, args.length, args[0].currentTarget === target, args[0].type]);
      });
      fire(target, 'a');
    }),
  );
  twice('added twice is one', (target, listener) => {
    target.addEventListener('a', listener);
    target.addEventListener('a', listener, { passive: true });
  });
  twice('added for capture and not is two', (target, listener) => {
    target.addEventListener('a', listener, true);
    target.addEventListener('a', listener);
  });
  twice('once', (target, listener) => target.addEventListener('a', listener, { once: true }));
  twice('once, added again by itself', (target, listener, note) => {
    const again = () => {
      note('again');
      target.addEventListener('a', again, { once: true });
    };
    target.addEventListener('a', again, { once: true });
  });
  twice('removed', (target, listener) => {
    target.addEventListener('a', listener);
    target.removeEventListener('a', listener);
  });
  twice('removed with another capture stays', (target, listener) => {
    target.addEventListener('a', listener, true);
    target.removeEventListener('a', listener, false);
  });
  twice('with a signal', (target, listener) => {
    const abort = new AbortController();
    target.addEventListener('a', listener, { signal: abort.signal });
    fire(target, 'a');
    abort.abort();
  });
  twice('with an aborted signal', (target, listener) =>
    target.addEventListener('a', listener, { signal: AbortSignal.abort() }),
  );
  twice('that removes itself', (target, listener, note) => {
    const self = () => {
      note('self');
      target.removeEventListener('a', self);
    };
    target.addEventListener('a', self);
    target.addEventListener('a', listener);
  });
  twice('that removes the next', (target, listener) => {
    target.addEventListener('a', () => target.removeEventListener('a', listener));
    target.addEventListener('a', listener);
  });
  twice('that stops the others', (target, listener) => {
    target.addEventListener('a', (event) => event.stopImmediatePropagation());
    target.addEventListener('a', listener);
  });
  twice('of two targets', (target, listener) => {
    const other = new EventTarget();
    other.addEventListener('a', listener);
    target.addEventListener('a', listener);
    other.removeEventListener('a', listener);
  });
  twice('null and undefined', (target) => {
    target.addEventListener('a', null);
    target.addEventListener('a', undefined);
    target.removeEventListener('a', null);
  });
  check('listener: options are read once', () =>
    noted((target, note) => {
      const options = {};
      for (const name of ['capture', 'once', 'passive', 'signal'])
        Object.defineProperty(options, name, { get: () => void note(name) });
      target.addEventListener('a', () => {}, options);
    }),
  );
  check('listener: the type is converted once', () =>
    noted((target, note) => {
      const { given, count } = converted('a');
      const listener = () => note('heard');
      target.addEventListener(given, listener);
      fire(target, 'a');
      target.removeEventListener(given, listener);
      fire(target, 'a');
      note(count.times);
    }),
  );
  for (const [name, args] of Object.entries({
    none: [],
    'one argument': ['a'],
    'a number': ['a', 5],
    'a text': ['a', 'text'],
    'a symbol': ['a', Symbol('x')],
    'a symbol as type': [Symbol('x'), () => {}],
    'bad options': ['a', () => {}, { signal: 5 }],
  })) {
    check(`addEventListener with ${name}`, () => outcome(() => new EventTarget().addEventListener(...args)));
    check(`removeEventListener with ${name}`, () =>
      outcome(() => new EventTarget().removeEventListener(...args)),
    );
  }
  check('addEventListener on what is no target', () =>
    [{}, 5, Object.create(EventTarget.prototype)].map((self) =>
      outcome(() => EventTarget.prototype.addEventListener.call(self, 'a', () => {})),
    ),
  );
  check('addEventListener without this is the window’s', () => {
    const { addEventListener: add, removeEventListener: remove } = window;
    const notes = [];
    const listener = (event) => notes.push(event.currentTarget === window);
    add('checked', listener);
    fire(window, 'checked');
    remove('checked', listener);
    fire(window, 'checked');
    return notes;
  });
  check('strict listener: this', () =>
    noted((target, note) => {
      target.addEventListener('a', function () {
        'use strict';
        note([this === target, strictThis() === undefined]);
      });
      fire(target, 'a');
    }),
  );
  check('object: handleEvent, this, changed, taken away', () =>
    noted((target, note) => {
      const object = {
        handleEvent(event) {
          note(['first', this === object, event.type, arguments.length]);
        },
      };
      target.addEventListener('a', object);
      fire(target, 'a');
      object.handleEvent = function () {
        note(['second', this === object]);
      };
      fire(target, 'a');
      target.removeEventListener('a', object);
      fire(target, 'a');
    }),
  );
  check('object: handleEvent is read once an event', () =>
    noted((target, note) => {
      const object = {
        get handleEvent() {
          note('read');
          return () => note('called');
        },
      };
      target.addEventListener('a', object);
      fire(target, 'a');
      fire(target, 'a');
    }),
  );
  for (const [name, object] of Object.entries({
    'no handleEvent': {},
    'a number as handleEvent': { handleEvent: 5 },
    'null as handleEvent': { handleEvent: null },
    'a handleEvent that throws': {
      handleEvent() {
        throw new RangeError('own error');
      },
    },
    'a getter that throws': {
      get handleEvent() {
        throw new RangeError('own getter error');
      },
    },
  })) {
    check(`object with ${name}`, () =>
      uncaught(() => {
        const target = new EventTarget();
        target.addEventListener('a', object);
        fire(target, 'a');
      }),
    );
  }
  check('a listener that throws, and the ones after it', () =>
    uncaught(() => {
      const target = new EventTarget();
      target.addEventListener('a', () => {
        throw new TypeError('from a listener');
      });
      target.addEventListener('a', () => {
        throw 'a text';
      });
      fire(target, 'a');
    }),
  );
  check('an async listener that fails', () =>
    uncaught(() => {
      const target = new EventTarget();
      target.addEventListener('a', async () => {
        throw new TypeError('later');
      });
      fire(target, 'a');
    }),
  );
  check('passive listeners cannot prevent', () => {
    const target = new EventTarget();
    target.addEventListener('a', (event) => event.preventDefault(), { passive: true });
    const event = new Event('a', { cancelable: true });
    return [target.dispatchEvent(event), event.defaultPrevented];
  });
  check('listeners in the tree: order and phases', () => {
    const notes = [];
    const outer = document.createElement('div');
    const inner = outer.appendChild(document.createElement('i'));
    for (const [name, element] of [
      ['outer', outer],
      ['inner', inner],
    ]) {
      for (const capture of [true, false])
        element.addEventListener('a', (event) => notes.push([name, capture, event.eventPhase]), capture);
    }
    inner.dispatchEvent(new Event('a', { bubbles: true }));
    return notes;
  });
  check('window.event while a listener runs', () =>
    noted((target, note) => {
      document.body.addEventListener('checked', (event) => note(window.event === event), { once: true });
      fire(document.body, 'checked');
      note(window.event === undefined);
    }),
  );
  check('bound, callable and class listeners', () =>
    noted((target, note) => {
      const bound = function (event) {
        note([this.name, event.type]);
      }.bind({ name: 'bound' });
      target.addEventListener('a', bound);
      target.addEventListener('a', new Proxy(() => note('proxy'), {}));
      fire(target, 'a');
      target.removeEventListener('a', bound);
      fire(target, 'a');
    }),
  );
  check('a frozen listener', () =>
    noted((target, note) => {
      target.addEventListener(
        'a',
        Object.freeze(() => note('frozen')),
      );
      target.addEventListener('a', Object.freeze({ handleEvent: () => note('frozen object') }));
      fire(target, 'a');
    }),
  );
  check('a revoked proxy as a listener', () =>
    uncaught(() => {
      const target = new EventTarget();
      const { proxy, revoke } = Proxy.revocable({}, {});
      target.addEventListener('a', proxy);
      revoke();
      fire(target, 'a');
    }),
  );
  const media = '(min-width: 1px)';
  const changed = (act) => {
    const notes = [];
    const query = matchMedia(media);
    const listener = function (event) {
      notes.push([this === query, event.type]);
    };
    act(query, listener);
    query.dispatchEvent(new Event('change'));
    return notes;
  };
  check('media query: addListener, removeListener', () => [
    changed((query, listener) => query.addListener(listener)),
    changed((query, listener) => {
      query.addListener(listener);
      query.removeListener(listener);
    }),
  ]);
  check('media query: addListener, removeEventListener', () =>
    changed((query, listener) => {
      query.addListener(listener);
      query.removeEventListener('change', listener);
    }),
  );
  check('media query: addEventListener, removeListener', () =>
    changed((query, listener) => {
      query.addEventListener('change', listener);
      query.removeListener(listener);
    }),
  );
  check('media query: both add one', () =>
    changed((query, listener) => {
      query.addEventListener('change', listener);
      query.addListener(listener);
    }),
  );
  check('media query: onchange', () => changed((query, listener) => (query.onchange = listener)));
  check('media query: null and none', () => [
    outcome(() => matchMedia(media).addListener(null)),
    outcome(() => matchMedia(media).addListener()),
    outcome(() => matchMedia(media).removeListener(5)),
  ]);
}
