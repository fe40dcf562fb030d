interface BrandedNavigator extends Navigator {
  readonly userAgentData?: {
    readonly brands: readonly { brand: string; version: string }[];
    readonly mobile: boolean;
    readonly platform: string;
  };
}

/** The engine and its major version, for people: told from what the engine can do before what it says. */
export function engineName(): string {
  const { userAgent } = navigator;
  const blink = /Chrom(?:e|ium)\/(\d+)/;
  const [name, version]: readonly [string, RegExp] =
    'mozInnerScreenX' in globalThis
      ? ['Gecko', /rv:(\d+)/]
      : blink.test(userAgent)
        ? ['Blink', blink]
        : ['WebKit', /AppleWebKit\/(\d+)/];
  return `${name} ${version.exec(userAgent)?.[1] ?? ''}`.trim();
}

/** The kind of device and its system. */
export function deviceName(): string {
  const { userAgent, maxTouchPoints, userAgentData } = navigator as BrandedNavigator;
  const mobile = userAgentData?.mobile ?? /Mobi/.test(userAgent);
  const system = userAgentData?.platform ?? /\(([^;)]+)/.exec(userAgent)?.[1] ?? '';
  const kind = mobile ? 'phone' : maxTouchPoints > 1 && screen.width < 1400 ? 'tablet' : 'computer';
  return system === '' ? kind : `${kind}, ${system}`;
}
