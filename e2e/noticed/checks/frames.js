{
  const frame = (act) => {
    const element = document.body.appendChild(document.createElement('iframe'));
    try {
      return act(element.contentWindow, element);
    } finally {
      element.remove();
    }
  };
  const loadedFrame = async (content) => {
    const element = Object.assign(document.createElement('iframe'), content);
    const loaded = new Promise((resolve) => element.addEventListener('load', resolve));
    document.body.append(element);
    await loaded;
    return element;
  };
  check('frame: its text of functions of this page', () =>
    frame(({ Function: { prototype } }) =>
      [
        setTimeout,
        fetch,
        addEventListener,
        MutationObserver,
        Element.prototype.getBoundingClientRect,
        prototype.toString,
        Function.prototype.toString,
        check,
      ].map((f) => prototype.toString.call(f)),
    ),
  );
  check('frame: this page’s text of its functions', () =>
    frame((other) =>
      [other.setTimeout, other.fetch, other.addEventListener, other.MutationObserver].map((f) =>
        Function.prototype.toString.call(f),
      ),
    ),
  );
  check('frame: removal through its prototype', () =>
    frame((other) => {
      let count = 0;
      const target = new EventTarget();
      const listener = () => count++;
      target.addEventListener('a', listener);
      other.EventTarget.prototype.removeEventListener.call(target, 'a', listener);
      target.dispatchEvent(new Event('a'));
      return count;
    }),
  );
  check('frame: addition through its prototype, removal through ours', () =>
    frame((other) => {
      let count = 0;
      const target = new EventTarget();
      const listener = () => count++;
      other.EventTarget.prototype.addEventListener.call(target, 'a', listener);
      target.addEventListener('a', listener);
      target.dispatchEvent(new Event('a'));
      target.removeEventListener('a', listener);
      target.dispatchEvent(new Event('a'));
      return count;
    }),
  );
  check('frame: handlers read through its prototype', () =>
    frame((other) => {
      const button = document.createElement('button');
      const handler = () => {};
      button.onclick = handler;
      const { get } = Object.getOwnPropertyDescriptor(other.HTMLElement.prototype, 'onclick');
      return get.call(button) === handler;
    }),
  );
  check('frame: an element taken over keeps its listeners', () =>
    frame((other) => {
      const notes = [];
      const button = document.createElement('button');
      const listener = () => notes.push('heard');
      button.addEventListener('a', listener);
      other.document.body.append(button);
      button.dispatchEvent(new Event('a'));
      button.removeEventListener('a', listener);
      button.dispatchEvent(new Event('a'));
      return notes;
    }),
  );
  check('frame: of this origin with a document of its own', async () => {
    const element = await loadedFrame({ src: '/frame.html' });
    const other = element.contentWindow;
    let count = 0;
    const listener = () => count++;
    const target = new EventTarget();
    target.addEventListener('a', listener);
    other.EventTarget.prototype.removeEventListener.call(target, 'a', listener);
    target.dispatchEvent(new Event('a'));
    const text = other.Function.prototype.toString.call(setTimeout);
    const seen = [
      count,
      text,
      other.document.documentElement.children.length,
      other.Function.prototype.toString.call(check) === String(check),
      other.answer,
    ];
    element.remove();
    return seen;
  });
  check('frame: srcdoc', async () => {
    const element = await loadedFrame({ srcdoc: '<!doctype html><p>Deck 3</p>' });
    const seen = [
      element.contentDocument.documentElement.outerHTML,
      element.contentWindow.Function.prototype.toString.call(setTimeout),
    ];
    element.remove();
    return seen;
  });
  check('frame: what is none', () => [
    document.createElement('iframe').contentWindow,
    document.createElement('iframe').contentDocument,
    outcome(() => Object.getOwnPropertyDescriptor(HTMLIFrameElement.prototype, 'contentWindow').get.call({})),
  ]);
}
