const WORDS = '"Atkinson Hyperlegible", "DejaVu Sans", sans-serif';

/** Fonts of drawings, as the style sheet has them for text and for figures. */
export const TEXT_FONT = `12px ${WORDS}`;
export const SMALL_FONT = `11px ${WORDS}`;
export const BOLD_FONT = `700 ${TEXT_FONT}`;
export const HEAD_FONT = `700 13px ${WORDS}`;
/** Name under which the style sheet brings the font of figures, and its family with what stands in for it. */
export const FIGURE_FONT_NAME = 'IBM Plex Mono';
export const FIGURE_FAMILY = `"${FIGURE_FONT_NAME}", "DejaVu Sans Mono", monospace`;
export const FIGURE_FONT = `11px ${FIGURE_FAMILY}`;
