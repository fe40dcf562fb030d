interface BrandedNavigator extends Navigator {
  readonly userAgentData?: {
    readonly mobile: boolean;
    readonly platform: string;
  };
}

/** The kind of device and its system. */
export function deviceName(): string {
  const { userAgent, maxTouchPoints, userAgentData } = navigator as BrandedNavigator;
  const mobile = userAgentData?.mobile ?? /Mobi/.test(userAgent);
  const system = userAgentData?.platform ?? /\(([^;)]+)/.exec(userAgent)?.[1] ?? '';
  const kind = mobile ? 'phone' : maxTouchPoints > 1 && screen.width < 1400 ? 'tablet' : 'computer';
  return system === '' ? kind : `${kind}, ${system}`;
}
