import { expect, it } from 'vitest';
import { inlineMap } from './inline-map';

const URL_OF_SCRIPT = 'http://localhost:4781/desk.js';
const MAP = '{"version":3,"sources":["d\u00e4ck.js~~?"],"mappings":""}';
const mapIn = (address: string) => inlineMap(address, URL_OF_SCRIPT);
const encoded = btoa(String.fromCharCode(...new TextEncoder().encode(MAP)));

it('is read however its address is written', () => {
  const json = 'data:application/json';
  for (const address of [
    `${json};base64,${encoded}`,
    `${json};charset=utf-8;base64,${encoded.replaceAll('=', '%3D')}`,
    `${json};base64,${encoded.replaceAll('=', '').replaceAll('+', '-').replaceAll('/', '_')}`,
    `${json},${encodeURIComponent(MAP)}`,
  ])
    expect(mapIn(address)).toEqual({ map: MAP, mapUrl: URL_OF_SCRIPT });
});

it('is none, and said to be, where it cannot be read', () => {
  for (const address of ['data:application/json;base64,!!', 'data:application/json,%'])
    expect(mapIn(address)).toEqual({ problem: 'its source map is a data address that cannot be read' });
});
