import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { jsonFault } from './json-fault';

function faultOf(text: string): string {
  try {
    JSON.parse(text);
    return '';
  } catch (error) {
    return jsonFault(error as SyntaxError, text);
  }
}

describe('what is wrong with a text that should be JSON', () => {
  it('is told with its place, where the engine tells it', () => {
    expect(faultOf('{\n "stops": [1 2')).toBe(' from line 2, column 14 on');
    expect(faultOf('{"steps": [')).toBe(': it ends too early');
    const said = (message: string) => jsonFault(new SyntaxError(message), '{"a":1,\n x}');
    expect(said('JSON.parse: unexpected character at line 2 column 2 of the JSON data')).toBe(
      ' from line 2, column 2 on',
    );
    expect(said('JSON Parse error: Unexpected EOF')).toBe(': it ends too early');
    expect(said('JSON Parse error: Unexpected identifier "Rigg"')).toBe('');
  });

  it('never repeats what the text holds', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[g-z]{6,20}$/), (secret) => {
        expect(faultOf(`${secret} {`)).not.toContain(secret);
        expect(faultOf(`{"name": ${secret}}`)).not.toContain(secret);
      }),
    );
  });
});
