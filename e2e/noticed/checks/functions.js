{
  const OWNERS = {
    window: [
      window,
      'setTimeout setInterval clearTimeout requestAnimationFrame cancelAnimationFrame requestIdleCallback queueMicrotask fetch getComputedStyle scroll scrollTo scrollBy alert confirm open postMessage',
    ],
    EventTarget: [EventTarget.prototype, 'addEventListener removeEventListener dispatchEvent'],
    Element: [
      Element.prototype,
      'getBoundingClientRect getClientRects scrollIntoView attachShadow setAttribute getAttribute removeAttribute hasAttribute append remove insertAdjacentHTML checkVisibility',
    ],
    Node: [Node.prototype, 'appendChild insertBefore removeChild replaceChild'],
    HTMLElement: [HTMLElement.prototype, 'focus click'],
    Document: [Document.prototype, 'elementFromPoint elementsFromPoint'],
    Range: [Range.prototype, 'getBoundingClientRect getClientRects'],
    Response: [Response.prototype, 'json text arrayBuffer blob formData'],
    XMLHttpRequest: [XMLHttpRequest.prototype, 'open send'],
    History: [History.prototype, 'pushState replaceState'],
    MessagePort: [MessagePort.prototype, 'postMessage'],
    MediaQueryList: [MediaQueryList.prototype, 'addListener removeListener'],
    CSSStyleSheet: [CSSStyleSheet.prototype, 'insertRule deleteRule replaceSync'],
    Function: [Function.prototype, 'toString'],
  };
  const ACCESSORS = {
    HTMLElement: [HTMLElement.prototype, 'offsetTop offsetWidth innerText style dataset hidden onclick'],
    Element: [Element.prototype, 'clientWidth scrollTop className id innerHTML outerHTML classList'],
    Node: [Node.prototype, 'textContent nodeValue'],
    CharacterData: [CharacterData.prototype, 'data'],
    window: [window, 'innerWidth innerHeight scrollX pageYOffset'],
    MouseEvent: [MouseEvent.prototype, 'offsetX'],
    HTMLImageElement: [HTMLImageElement.prototype, 'width height x'],
    HTMLScriptElement: [HTMLScriptElement.prototype, 'integrity'],
    HTMLIFrameElement: [HTMLIFrameElement.prototype, 'contentWindow contentDocument'],
  };
  /** All that a program can ask about a function without calling it for what it does. */
  const looks = (f) => [
    f.name,
    f.length,
    Reflect.ownKeys(f).map(String).sort(),
    'prototype' in f,
    String(f),
    `${f}`,
    Object.getPrototypeOf(f) === Function.prototype,
    Object.isExtensible(f),
    outcome(() => typeof Reflect.construct(Object, [], f)).threw?.split(':')[0],
    outcome(() => new f()).threw?.replace(/^.*: /, '').length > 0,
    Object.getOwnPropertyDescriptor(f, 'name'),
    outcome(() => f.caller === null),
    JSON.stringify(Object.entries(Object.getOwnPropertyDescriptors(f)).sort()),
  ];
  for (const [owner, [object, names]] of Object.entries(OWNERS)) {
    for (const name of names.split(' ')) {
      check(`function ${owner}.${name}`, () => {
        const found = Object.getOwnPropertyDescriptor(object, name);
        if (found === undefined) return 'none';
        return [found.enumerable, found.configurable, found.writable, ...looks(found.value)];
      });
    }
  }
  for (const [owner, [object, names]] of Object.entries(ACCESSORS)) {
    for (const name of names.split(' ')) {
      check(`accessor ${owner}.${name}`, () => {
        const found = Object.getOwnPropertyDescriptor(object, name);
        if (found === undefined) return 'none';
        const { get, set } = found;
        return [found.enumerable, found.configurable, looks(get), set && looks(set)];
      });
    }
  }
  for (const name of 'MutationObserver ResizeObserver IntersectionObserver PerformanceObserver MessageChannel Worker SharedWorker XMLHttpRequest WebSocket Promise'.split(
    ' ',
  )) {
    check(`class ${name}`, () => {
      const found = Object.getOwnPropertyDescriptor(window, name);
      if (found === undefined) return 'none';
      const { value } = found;
      class Derived extends value {}
      return [
        found.enumerable,
        found.configurable,
        found.writable,
        value.name,
        value.length,
        Reflect.ownKeys(value).map(String).sort(),
        String(value),
        value.prototype.constructor === value,
        Object.getOwnPropertyDescriptor(value, 'prototype').writable,
        Object.getOwnPropertyDescriptor(value.prototype, 'constructor').enumerable,
        Object.prototype.toString.call(value.prototype),
        outcome(() => typeof new value()),
        outcome(() => typeof value()),
        outcome(() => typeof new Derived()),
        Object.getPrototypeOf(Derived) === value,
        Object.getPrototypeOf(value) === EventTarget || Object.getPrototypeOf(value) === Function.prototype,
      ];
    });
  }
  check('observers: instances and subclasses', () => {
    class Watcher extends MutationObserver {
      twice() {
        return 2;
      }
    }
    const plain = new MutationObserver(() => {});
    const other = Reflect.construct(MutationObserver, [() => {}], class Other {});
    return [
      new Watcher(() => {}).twice(),
      new Watcher(() => {}) instanceof MutationObserver,
      plain.constructor === MutationObserver,
      other.constructor.name,
      other instanceof MutationObserver,
      String(plain),
      outcome(() => typeof new MutationObserver(5)),
      outcome(() => typeof new ResizeObserver()),
      outcome(() => typeof new IntersectionObserver(() => {}, { threshold: 5 })),
    ];
  });
  check('what the window holds', () => [
    Object.keys(window).filter((key) => /nettle|__np/i.test(key)),
    Object.getOwnPropertySymbols(window).map(String),
    Object.getOwnPropertyNames(window).filter((key) => key.startsWith('__')),
  ]);
  check('order of what the window and prototypes hold', () =>
    [EventTarget, Node, Element, HTMLElement, Document, MessagePort, Response, History].map(({ prototype }) =>
      Object.getOwnPropertyNames(prototype).join(' '),
    ),
  );
  check('Function.prototype.toString of anything', () => [
    outcome(() => Function.prototype.toString.call({})),
    outcome(() => Function.prototype.toString.call()),
    outcome(() => Function.prototype.toString.call('text')),
    String(Function.prototype.toString),
    String(Function.prototype),
    String(
      class Holm {
        lane() {}
      },
    ),
    String((a, b) => a + b),
    String(new Proxy(() => {}, {})),
    String(function () {}.bind()),
    `${async function* sail() {
      yield 1;
    }}`,
  ]);
}
