/** A text that may stand between tags or in an attribute of XML. */
export function escapeXml(text: string): string {
  return text
    .replaceAll(/[^\t\n\r\u0020-\ud7ff\ue000-\ufffd]/g, '\ufffd')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;');
}
