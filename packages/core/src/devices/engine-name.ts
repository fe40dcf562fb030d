/**
 * An engine and its major version, for people: "Blink 156".
 * @param isGecko as what it can do tells, which is believed before what it says
 */
export function engineName(userAgent: string, isGecko: boolean): string {
  const blink = /Chrom(?:e|ium)\/(\d+)/;
  const [name, version]: readonly [string, RegExp] = isGecko
    ? ['Gecko', /rv:(\d+)/]
    : blink.test(userAgent)
      ? ['Blink', blink]
      : ['WebKit', /AppleWebKit\/(\d+)/];
  return `${name} ${version.exec(userAgent)?.[1] ?? ''}`.trim();
}
