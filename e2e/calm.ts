/** Query of the boarding desk with only those faults that a person's own input shows. */
export const CALM = '?mended=ticker,tide-chart,deck-log,start-up';
