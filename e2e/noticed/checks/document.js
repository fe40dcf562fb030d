{
  const matching = (selector) => document.querySelectorAll(selector).length;
  check('document: what selectors find', () =>
    [
      '*',
      'html > *',
      'html > :last-child',
      'body:last-child',
      'body:nth-child(2)',
      'html:has(> body + *)',
      'script',
      'style',
      'link',
      ':empty',
      'head > *',
      '*:not(:defined)',
      '[style]',
    ].map((selector) => [selector, matching(selector)]),
  );
  check('document: children and nodes', () => [
    document.documentElement.children.length,
    document.documentElement.lastElementChild.tagName,
    document.childNodes.length,
    document.documentElement.childNodes.length,
    document.head.childNodes.length,
    document.scripts.length,
    document.all.length,
    document.getElementsByTagName('*').length,
    document.documentElement.attributes.length,
    document.styleSheets.length,
    document.adoptedStyleSheets?.length,
    window.length,
    document.forms.length,
    document.images.length,
  ]);
  check('document: as text', () => document.documentElement.outerHTML);
  check('document: elements at a place', () => [
    document.elementFromPoint(innerWidth - 2, innerHeight - 2)?.tagName,
    document
      .elementsFromPoint(2, 2)
      .map(({ tagName }) => tagName)
      .slice(-2),
  ]);
  check('document: iterators', () => {
    const walker = document.createTreeWalker(document, NodeFilter.SHOW_ALL);
    let count = 0;
    while (walker.nextNode()) count++;
    return count;
  });
  check('document: nobody writes to it', async () => {
    const records = [];
    const observer = new MutationObserver((some) =>
      records.push(...some.map(({ type, target }) => [type, target.nodeName])),
    );
    observer.observe(document, { subtree: true, childList: true, attributes: true, characterData: true });
    await new Promise((resolve) => requestAnimationFrame(resolve));
    document.body.dataset.checked = '1';
    void document.body.offsetHeight;
    await pause(200);
    delete document.body.dataset.checked;
    observer.disconnect();
    return records;
  });
  check('document: animations', () => document.getAnimations().length);
  check('document: a place for elements after body', () => {
    const last = document.documentElement.appendChild(document.createElement('i'));
    const seen = [last.previousElementSibling.tagName, last.matches(':nth-child(3)')];
    last.remove();
    return seen;
  });
  check('document: emptied and written anew, in part', () => {
    const holder = document.body.appendChild(document.createElement('div'));
    holder.innerHTML = '<b>Mind</b> the ramp';
    holder.firstChild.remove();
    holder.insertAdjacentHTML('beforeend', '<i>3</i>');
    holder.append('!', document.createElement('u'));
    const seen = [holder.outerHTML, holder.textContent, holder.innerText];
    holder.remove();
    return seen;
  });
  check('layout: figures', () => {
    const box = document.body.appendChild(document.createElement('div'));
    box.style.cssText = 'position:absolute;left:10px;top:20px;width:123px;height:45px;overflow:auto';
    box.innerHTML = '<div style="height:500px">x</div>';
    box.scrollTop = 30;
    const { x, y, width, height } = box.getBoundingClientRect();
    const seen = [
      x,
      y,
      width,
      height,
      box.offsetLeft,
      box.offsetWidth,
      box.clientHeight,
      box.scrollTop,
      box.scrollHeight,
      box.offsetParent.tagName,
      getComputedStyle(box).width,
      box.getClientRects().length,
      box.checkVisibility(),
    ];
    box.style.width = '50px';
    seen.push(box.offsetWidth);
    box.remove();
    seen.push(box.offsetWidth, box.offsetParent);
    return seen;
  });
  check('layout: a transition begins where it would', async () => {
    const box = document.body.appendChild(document.createElement('div'));
    box.style.cssText = 'width:100px;transition:width 1s';
    void box.offsetWidth;
    box.style.width = '200px';
    void box.offsetWidth;
    const seen = [box.getAnimations().length, box.getBoundingClientRect().width < 200];
    box.style.width = '100px';
    box.style.transition = 'none';
    void box.offsetWidth;
    box.style.transition = 'width 1s';
    box.style.width = '300px';
    box.remove();
    return seen;
  });
  check('layout: a class added and taken away within a task starts nothing', async () => {
    const style = document.head.appendChild(document.createElement('style'));
    style.textContent = '.far { transform: translateX(100px) } #moved { transition: transform 1s }';
    const box = document.body.appendChild(document.createElement('div'));
    box.id = 'moved';
    void box.offsetWidth;
    await new Promise((resolve) => requestAnimationFrame(resolve));
    box.className = 'far';
    box.className = '';
    await new Promise((resolve) => requestAnimationFrame(resolve));
    const seen = box.getAnimations().length;
    box.remove();
    style.remove();
    return seen;
  });
  check('layout: bad this', () => [
    outcome(() => Element.prototype.getBoundingClientRect.call({})),
    outcome(() => Object.getOwnPropertyDescriptor(HTMLElement.prototype, 'offsetTop').get.call({})),
    outcome(() => HTMLElement.prototype.offsetTop),
    outcome(() => Element.prototype.setAttribute.call(document.body, 'only one')),
    outcome(() => getComputedStyle()),
    outcome(() => getComputedStyle({})),
    outcome(() => document.body.appendChild()),
    outcome(() => document.body.appendChild({})),
    outcome(() => document.elementFromPoint()),
    outcome(() => document.elementFromPoint(NaN, 'x')),
  ]);
  check('layout: scroll options are read once', () => {
    const notes = [];
    const options = {};
    for (const name of ['behavior', 'left', 'top'])
      Object.defineProperty(options, name, { get: () => void notes.push(name) });
    document.body.scrollTo(options);
    return notes;
  });
  check('layout: what the window may be given', () => {
    const seen = [typeof innerWidth];
    window.innerWidth = 5;
    seen.push(innerWidth, Object.getOwnPropertyDescriptor(window, 'innerWidth').value);
    delete window.innerWidth;
    seen.push(typeof innerWidth);
    return seen;
  });
  check('shadow roots', () => {
    const open = document.createElement('div');
    const closed = document.createElement('div');
    const root = open.attachShadow({ mode: 'open' });
    closed.attachShadow({ mode: 'closed' });
    return [
      open.shadowRoot === root,
      closed.shadowRoot,
      outcome(() => open.attachShadow({ mode: 'open' })),
      outcome(() => open.attachShadow()),
      outcome(() => document.createElement('img').attachShadow({ mode: 'open' })),
      outcome(() => document.createElement('div').attachShadow({ mode: 'bad' })),
    ];
  });
  check('style sheets', () => {
    const sheet = new CSSStyleSheet();
    sheet.replaceSync('b { color: red }');
    return [
      sheet.insertRule('i { color: blue }'),
      sheet.cssRules.length,
      outcome(() => sheet.insertRule('{{')),
      outcome(() => sheet.deleteRule(9)),
      outcome(() => sheet.insertRule()),
    ];
  });
  check('integrity of scripts', () => {
    const script = document.createElement('script');
    const seen = [script.integrity, script.getAttribute('integrity')];
    script.integrity = 'sha256-x';
    seen.push(
      script.integrity,
      script.getAttribute('integrity'),
      script.hasAttribute('integrity'),
      script.outerHTML,
      script.attributes.length,
      script.matches('[integrity]'),
    );
    script.removeAttribute('integrity');
    seen.push(script.integrity, script.hasAttribute('integrity'), script.getAttributeNames());
    return seen;
  });
  check('elements: what is written and read', () => {
    const element = document.createElement('div');
    element.id = 'a';
    element.className = 'b c';
    element.hidden = true;
    element.dataset.lane = '3';
    element.setAttribute('title', 'Ramp');
    element.toggleAttribute('inert');
    const { given, count } = converted('title');
    element.setAttribute(given, 'x');
    return [
      element.outerHTML,
      count.times,
      element.getAttribute('TITLE'),
      element.removeAttribute('title'),
      element.hasAttribute('title'),
    ];
  });
  check('own style is no listener of a change', () => {
    const seen = [];
    const element = document.createElement('div');
    element.style = 'color: red';
    seen.push(element.getAttribute('style'));
    element.classList = 'x y';
    seen.push(element.className, element.classList.length);
    return seen;
  });
}
