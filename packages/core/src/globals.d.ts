/**
 * The few globals that browsers, workers and Node have in common and that the core uses.
 * Declared here because the core is compiled without the DOM's and Node's types.
 */
declare class TextDecoder {
  constructor(label?: string, options?: { fatal?: boolean; ignoreBOM?: boolean });
  decode(bytes?: Uint8Array, options?: { stream?: boolean }): string;
}
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
declare class URL {
  constructor(url: string, base?: string | URL);
  readonly href: string;
  readonly origin: string;
  readonly protocol: string;
  readonly pathname: string;
}
