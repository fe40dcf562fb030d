{
  const click = (element) => {
    const event = new MouseEvent('click', { cancelable: true, bubbles: true });
    element.dispatchEvent(event);
    return event.defaultPrevented;
  };
  check('onclick: what is set is what is read', () => {
    const element = document.createElement('button');
    const handler = () => {};
    const object = { handleEvent() {} };
    return [handler, object, null, undefined, 5, 'text', Symbol.iterator].map((value) => {
      element.onclick = value;
      return [element.onclick === value, typeof element.onclick];
    });
  });
  check('onclick: this, arguments, and what false does', () => {
    const notes = [];
    const element = document.createElement('button');
    element.onclick = function () {
      'use strict';
      notes.push([this === element, arguments.length, arguments[0].type]);
      return false;
    };
    return [click(element), notes];
  });
  check('onclick keeps its place among listeners', () => {
    const notes = [];
    const element = document.createElement('button');
    element.onclick = () => notes.push('first');
    element.addEventListener('click', () => notes.push('listener'));
    element.onclick = () => notes.push('second');
    click(element);
    element.onclick = null;
    element.onclick = () => notes.push('third');
    click(element);
    return notes;
  });
  check('one function as handler and listener runs twice', () => {
    let count = 0;
    const element = document.createElement('button');
    const both = () => count++;
    element.onclick = both;
    element.addEventListener('click', both);
    click(element);
    element.removeEventListener('click', both);
    click(element);
    return count;
  });
  check('a handler from an attribute', () => {
    const element = document.createElement('button');
    element.setAttribute('onclick', 'this.dataset.ran = event.type; return false;');
    return [
      typeof element.onclick,
      String(element.onclick),
      click(element),
      element.dataset.ran,
      element.onclick.name,
    ];
  });
  check('an attribute after a property, and a property after an attribute', () => {
    const element = document.createElement('button');
    const handler = () => {};
    element.onclick = handler;
    element.setAttribute('onclick', 'void 0');
    const first = element.onclick === handler;
    element.onclick = handler;
    return [first, element.onclick === handler, element.getAttribute('onclick')];
  });
  check('handlers of body and window are the same', () => {
    const handler = () => {};
    const results = [];
    for (const name of [
      'onblur',
      'onfocus',
      'onresize',
      'onscroll',
      'onload',
      'onerror',
      'onpopstate',
      'onhashchange',
      'onmessage',
      'onstorage',
    ]) {
      document.body[name] = handler;
      results.push([name, window[name] === handler, document.body[name] === handler]);
      document.body[name] = null;
      window[name] = handler;
      results.push([window[name] === handler, document.body[name] === handler]);
      window[name] = null;
      results.push(document.body[name] === null);
    }
    return results;
  });
  check('window.onerror gets five arguments and may take the error', async () => {
    const notes = [];
    window.onerror = function (...args) {
      notes.push([args.length, args.map((arg) => typeof arg), this === window, args[4].message]);
      return true;
    };
    setTimeout(() => {
      throw new Error('taken');
    });
    await pause(50);
    window.onerror = null;
    return notes;
  });
  check('onbeforeunload returns a text', () => {
    const event = new Event('beforeunload', { cancelable: true });
    window.onbeforeunload = () => undefined;
    window.dispatchEvent(event);
    window.onbeforeunload = null;
    return event.defaultPrevented;
  });
  check('a handler that throws', () =>
    uncaught(() => {
      const element = document.createElement('button');
      element.onclick = () => {
        throw new RangeError('own');
      };
      click(element);
    }),
  );
  check('a handler object without a function', () =>
    uncaught(() => {
      const element = document.createElement('button');
      element.onclick = { handleEvent: () => document.body.append('never') };
      click(element);
    }),
  );
  check('handlers on what is no element', () =>
    ['onclick', 'onkeydown'].map((name) => {
      const { get, set } = Object.getOwnPropertyDescriptor(HTMLElement.prototype, name);
      return [
        outcome(() => typeof get.call({})),
        outcome(() => typeof set.call({}, () => {})),
        outcome(() => typeof get.call()),
      ];
    }),
  );
  check('handlers: descriptors', () =>
    [
      [HTMLElement.prototype, 'onclick'],
      [window, 'onload'],
      [XMLHttpRequest.prototype, 'onreadystatechange'],
      [MessagePort.prototype, 'onmessage'],
      [HTMLBodyElement.prototype, 'onload'],
    ].map(([owner, name]) => {
      const found = Object.getOwnPropertyDescriptor(owner, name);
      return (
        found && [
          found.enumerable,
          found.configurable,
          found.get.name,
          found.set.name,
          found.set.length,
          String(found.get),
          String(found.set),
        ]
      );
    }),
  );
  check('handlers: subclass reads its own', () => {
    class Ramp extends HTMLElement {
      get onclick() {
        return `own ${typeof super.onclick}`;
      }
    }
    customElements.define('checked-ramp', Ramp);
    return document.createElement('checked-ramp').onclick;
  });
}
