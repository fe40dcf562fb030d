// @vitest-environment jsdom
import { beforeEach, describe, expect, it } from 'vitest';
import { selectorOf } from './selector';
import { StepRecorder } from './step-recorder';

const PAGE = `
  <main id="quay">
    <button id="cast-off">Cast off</button>
    <ul data-testid="lanes"><li>one</li><li>two</li><li>three</li></ul>
    <input id="search"><input id="pass" type="password"><input name="card" autocomplete="cc-number">
    <select name="gate"><option>1</option><option>2</option></select>
    <div id="twin"></div><div id="twin"><b>second</b></div>
  </main>`;

let keeper: StepRecorder;
let clockMs = 0;

beforeEach(() => {
  globalThis.CSS ??= { escape: (text: string) => text.replace(/["\\:]/g, '\\$&') } as typeof CSS;
  document.body.innerHTML = PAGE;
  keeper = new StepRecorder(true);
  clockMs = 1000;
});

const element = (selector: string) => document.querySelector(selector)!;

/** Hands the keeper an event as the browser would give it after a while. */
function happen(type: string, target: Element, fields: object = {}, afterMs = 100): void {
  clockMs += afterMs;
  const usual = {
    isTrusted: true,
    isPrimary: true,
    button: 0,
    clientX: 50,
    clientY: 60,
    getModifierState: () => false,
  };
  keeper.handle({ ...usual, ...fields, type, target, timeStamp: clockMs } as unknown as Event);
}

const steps = () => keeper.takeAll().map(({ step }) => step);

describe('what a person does becomes steps', () => {
  it('where a finger goes down and up again', () => {
    happen('pointerdown', element('#cast-off'));
    happen('pointerup', element('#cast-off'), { clientX: 52 });
    expect(steps()).toEqual([{ do: 'click', on: '#cast-off' }]);
  });

  it('without a word of what is secret: what was once a password, is out of sight or made with Alt', () => {
    const type = (target: Element, path: EventTarget[], ...keys: object[]) => {
      for (const key of keys) happen('keydown', target, { composedPath: () => path, ...key });
    };
    const pass = element('#pass') as HTMLInputElement;
    happen('pointerdown', element('#cast-off'));
    pass.type = 'text';
    type(
      pass,
      [pass],
      { key: 's' },
      { key: '\u0142', altKey: true },
      { key: '@', altKey: true, ctrlKey: true },
    );
    const host = element('#twin');
    const root = host.attachShadow({ mode: 'open' });
    root.innerHTML = '<input type="password"><input id="open">';
    type(host, [root.querySelector('input')!, root, host], { key: 'x' });
    type(element('#lanes, [data-testid=lanes]'), [element('[data-testid=lanes]')], { key: 'y' });
    type(host, [root.querySelector('#open')!, root, host], { key: 'z' });
    const typed = steps().filter(({ do: what }) => what === 'type' || what === 'key');
    expect(JSON.stringify(typed)).not.toMatch(/"(text|key)":"[sxy@\u0142]/);
    expect(typed).toMatchObject([{ length: 3 }, { length: 1 }, { length: 1 }, { text: 'z' }]);
  });

  it('but not what a script pretends', () => {
    happen('pointerdown', element('#cast-off'), { isTrusted: false });
    happen('pointerup', element('#cast-off'), { isTrusted: false });
    happen('keydown', element('#search'), { key: 'a', isTrusted: false });
    expect(steps()).toEqual([]);
  });

  it('with a double click in place of two clicks, which is not told before it is sure', () => {
    const lane = element('li:nth-of-type(2)');
    for (let click = 0; click < 2; click++) {
      happen('pointerdown', lane);
      happen('pointerup', lane, {}, 40);
    }
    expect(keeper.take(clockMs)).toEqual([]);
    happen('dblclick', lane, {}, 1);
    expect(keeper.take(clockMs + 2000).map(({ step }) => step)).toEqual([
      { do: 'double-click', on: '[data-testid="lanes"] > li:nth-of-type(2)' },
    ]);
  });

  it('of what is typed: words in one go, keys, and commands; secrets by their length', () => {
    for (const key of 'hak') happen('keydown', element('#search'), { key });
    happen('keydown', element('#search'), { key: 'Shift' });
    happen('keydown', element('#search'), { key: 'Enter' });
    happen('keydown', element('#search'), {
      key: 'a',
      ctrlKey: true,
      getModifierState: (name: string) => name === 'Control',
    });
    for (const key of 'tide') happen('keydown', element('#pass'), { key });
    for (const key of '42') happen('keydown', element('input[name=card]'), { key });
    expect(steps()).toEqual([
      { do: 'type', text: 'hak', everyMs: 100 },
      { do: 'key', key: 'Enter' },
      { do: 'key', key: 'a', with: ['Control'] },
      { do: 'type', length: 4, everyMs: 100 },
      { do: 'type', length: 2, everyMs: 100 },
    ]);
  });

  it('of what a soft keyboard types, whose keys have no names', () => {
    happen('keydown', element('#search'), { key: 'Unidentified' });
    happen('input', element('#search'), { data: 'ha' });
    happen('keydown', element('#search'), { key: 'Process', isComposing: true });
    happen('input', element('#search'), { data: 'k', isComposing: true });
    expect(steps()).toEqual([{ do: 'type', text: 'ha', everyMs: 0 }]);
  });

  it('without a word where words are not kept', () => {
    keeper = new StepRecorder(false);
    for (const key of 'hak') happen('keydown', element('#search'), { key });
    expect(steps()).toEqual([{ do: 'type', length: 3, everyMs: 100 }]);
  });

  it('of a choice: not how the list was opened, but what was chosen', () => {
    const gate = element('select') as HTMLSelectElement;
    happen('pointerdown', gate);
    happen('pointerup', gate);
    happen('keydown', gate, { key: 'ArrowDown' });
    gate.selectedIndex = 1;
    happen('change', gate);
    expect(steps()).toEqual([{ do: 'choose', on: 'select[name="gate"]', index: 1 }]);
  });

  it('of a drag by the page, and of one by the browser', () => {
    happen('pointerdown', element('#quay'));
    for (let move = 0; move < 4; move++) happen('pointermove', element('#quay'), {}, 20);
    happen('pointerup', element('#quay'), { clientX: 90, clientY: 60 }, 20);
    happen('pointerdown', element('#quay'));
    happen('dragstart', element('#quay'));
    happen('pointercancel', element('#quay'), { pointerType: 'mouse' });
    happen('drop', element('#search'), { clientX: 50, clientY: 160 });
    happen('pointerdown', element('#quay'));
    happen('dragstart', element('#quay'));
    happen('dragend', element('#quay'));
    expect(steps()).toMatchObject([
      { do: 'drag', on: '#quay', by: { x: 40, y: 0 }, moves: 4, everyMs: 25 },
      { do: 'drag', on: '#quay', by: { x: 0, y: 100 } },
    ]);
  });

  it('of the wheel by what it moves, in one go until it rests, and of a swipe by how far it went', () => {
    const [lane, list] = [element('li'), element('ul')];
    happen('wheel', lane, { deltaX: 0, deltaY: 3, deltaMode: 1 }, 50);
    happen('scroll', list, {}, 10);
    happen('wheel', lane, { deltaX: 0, deltaY: 20, deltaMode: 0 }, 50);
    happen('wheel', lane, { deltaX: 5, deltaY: 0, deltaMode: 0 }, 3000);
    happen('wheel', lane, { deltaX: 0, deltaY: 50, deltaMode: 0, ctrlKey: true }, 50);
    happen('pointerdown', lane, { pointerType: 'touch' });
    happen('pointercancel', lane, { pointerType: 'touch' });
    Object.assign(globalThis, { scrollX: 0, scrollY: 240 });
    happen('scroll', document.documentElement);
    Object.assign(globalThis, { scrollX: 0, scrollY: 0 });
    expect(steps()).toEqual([
      { do: 'scroll', on: '[data-testid="lanes"]', by: { x: 0, y: 68 } },
      { do: 'scroll', on: '[data-testid="lanes"] > li:nth-of-type(1)', by: { x: 5, y: 0 } },
      { do: 'scroll', by: { x: 0, y: 240 } },
    ]);
  });
});

describe('a selector', () => {
  it('finds its element first, and nothing else', () => {
    for (const one of document.querySelectorAll('*'))
      expect(document.querySelector(selectorOf(one))).toBe(one);
  });

  it('is the shortest name that is no one else’s', () => {
    expect(selectorOf(element('#search'))).toBe('#search');
    expect(selectorOf(element('#twin b'))).toBe('#quay > div:nth-of-type(2) > b');
  });
});
