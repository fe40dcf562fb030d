import { fromBase64 } from '../format/base64';
import type { ScriptText } from './script-text';

/** What a data address holds (RFC 2397): the letters that some write in place of two, and padding left out, included. */
function contentOf(address: string): string {
  const [head = '', body = ''] = address.slice('data:'.length).split(/,(.*)/s);
  const text = decodeURIComponent(body);
  if (!/;base64$/i.test(head)) return text;
  const standard = text.replaceAll('-', '+').replaceAll('_', '/');
  return new TextDecoder().decode(fromBase64(standard.padEnd(Math.ceil(standard.length / 4) * 4, '=')));
}

/**
 * The source map that a script holds itself.
 * @param address a data address
 * @param url of the script
 */
export function inlineMap(address: string, url: string): Pick<ScriptText, 'map' | 'mapUrl' | 'problem'> {
  try {
    return { map: contentOf(address), mapUrl: url };
  } catch {
    return { problem: 'its source map is a data address that cannot be read' };
  }
}
