const WORDS = '"Atkinson Hyperlegible", "DejaVu Sans", sans-serif';

/** Fonts of drawings, as the style sheet has them for text and for figures. */
export const TEXT_FONT = `12px ${WORDS}`;
export const SMALL_FONT = `11px ${WORDS}`;
export const BOLD_FONT = `700 ${TEXT_FONT}`;
export const HEAD_FONT = `700 13px ${WORDS}`;
export const FIGURE_FONT = '11px "IBM Plex Mono", "DejaVu Sans Mono", monospace';
