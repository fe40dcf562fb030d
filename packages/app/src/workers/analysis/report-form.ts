/** What a report can be: text for a change request, a drawing in SVG, or one page that needs nothing else. */
export type ReportForm = 'markdown' | 'picture' | 'page';
