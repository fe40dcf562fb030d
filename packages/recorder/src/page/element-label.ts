import { MAX_NAME, packFacts } from '@nettle-patch/core';

const USABLE =
  'button,a[href],input,select,textarea,summary,[role],[contenteditable=""],[contenteditable="true"]';
const NAMED = '[id],[data-testid],[data-test]';
/** Controls that show what they do; never fields or rows, which show what people have put there. */
const SHOWING = 'button,a,summary,[role=button],[role=link],[role^=menuitem],[role=tab]';

let namesByText = false;

/** @param byText whether controls are named by their visible text from now on */
export function nameByText(byText: boolean): void {
  namesByText = byText;
}

export function isNamedByText(): boolean {
  return namesByText;
}

/**
 * What an element, and the frame of this origin that it stands in, is to be called, as facts of which the label is made
 * outside of the page. Values and accessible names are not among them: they may be private.
 */
export function elementLabel(target: EventTarget | null | undefined): string {
  const element = target instanceof Element ? target : target instanceof Node ? target.parentElement : null;
  const label = element === null || element === document.documentElement ? packFacts([]) : factsOf(element);
  return frameElement ? `${label} in ${factsOf(frameElement)}` : label;
}

function factsOf(element: Element): string {
  const used = element.closest(USABLE) ?? element;
  const named = used.closest(NAMED);
  const { localName, type, isContentEditable } = used as HTMLInputElement;
  const attribute = (of: Element | null, name: string) => of?.getAttribute(name);
  return packFacts([
    attribute(used, 'role'),
    localName,
    localName === 'input' && type,
    isContentEditable,
    (attribute(named, 'data-testid') ?? attribute(named, 'data-test') ?? named?.id)?.slice(0, MAX_NAME),
    named !== used,
    namesByText && used.matches(SHOWING) && used.textContent.trim().slice(0, MAX_NAME),
  ]);
}
