/** Whether this is Firefox's engine. */
export const isGecko = () => 'InternalError' in globalThis;

/** The engine and its major version, for people: told from what the engine can do before what it says. */
export function engineName(): string {
  const { userAgent } = navigator;
  const blink = /Chrom(?:e|ium)\/(\d+)/;
  const [name, version]: readonly [string, RegExp] = isGecko()
    ? ['Gecko', /rv:(\d+)/]
    : blink.test(userAgent)
      ? ['Blink', blink]
      : ['WebKit', /AppleWebKit\/(\d+)/];
  return `${name} ${version.exec(userAgent)?.[1] ?? ''}`.trim();
}
