/** What has style computed, and layout done unless it says "style". */
export type Forces = 'layout' | 'style';

interface Members {
  /** Name of the class, or "window" for the window itself. */
  readonly owner: string;
  readonly forces?: Forces;
  readonly getters?: string;
  readonly setters?: string;
  readonly methods?: string;
}

/** Instead of names: all methods of the class that get something. */
export const ALL_GETTING = 'get';

/**
 * The members that need the geometry or the computed style of a document, and so have style and layout done when
 * something has changed (CSSOM View; CSSOM; SVG 2; HTML, `focus` and `innerText`; UI Events).
 */
export const FORCING_MEMBERS: readonly Members[] = [
  {
    owner: 'HTMLElement',
    getters: 'offsetTop offsetLeft offsetWidth offsetHeight offsetParent innerText outerText',
    methods: 'focus',
  },
  {
    owner: 'Element',
    getters: 'clientTop clientLeft clientWidth clientHeight scrollTop scrollLeft scrollWidth scrollHeight',
    setters: 'scrollTop scrollLeft',
    methods: 'getBoundingClientRect getClientRects scrollIntoView scroll scrollTo scrollBy',
  },
  { owner: 'Element', forces: 'style', methods: 'checkVisibility' },
  {
    owner: 'window',
    getters: 'innerWidth innerHeight scrollX scrollY pageXOffset pageYOffset',
    methods: 'scroll scrollTo scrollBy',
  },
  { owner: 'window', forces: 'style', methods: 'getComputedStyle' },
  {
    owner: 'Document',
    getters: 'scrollingElement',
    methods: 'elementFromPoint elementsFromPoint caretRangeFromPoint caretPositionFromPoint',
  },
  { owner: 'Range', methods: ALL_GETTING },
  { owner: 'MouseEvent', getters: 'offsetX offsetY layerX layerY' },
  { owner: 'HTMLImageElement', getters: 'width height x y' },
  { owner: 'SVGElement', methods: 'focus' },
  { owner: 'SVGGraphicsElement', methods: ALL_GETTING },
  { owner: 'SVGTextContentElement', methods: ALL_GETTING },
  { owner: 'SVGGeometryElement', methods: ALL_GETTING },
];

/** The members through which most changes are made. Only where each change came from is noted. */
export const WRITING_MEMBERS: readonly Members[] = [
  { owner: 'HTMLElement', getters: 'style dataset', setters: 'innerText hidden' },
  { owner: 'SVGElement', getters: 'style' },
  {
    owner: 'Element',
    getters: 'classList',
    setters: 'className id innerHTML outerHTML',
    methods:
      'setAttribute removeAttribute toggleAttribute append prepend replaceChildren before after remove replaceWith insertAdjacentElement insertAdjacentHTML insertAdjacentText',
  },
  {
    owner: 'Node',
    setters: 'textContent nodeValue',
    methods: 'appendChild insertBefore removeChild replaceChild',
  },
  { owner: 'CharacterData', setters: 'data' },
];

/** The members of style sheets that change what applies to a document, of which no observer is told. */
export const SHEET_MEMBERS = ['insertRule', 'deleteRule', 'replaceSync'];
