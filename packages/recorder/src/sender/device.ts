interface BrandedNavigator extends Navigator {
  readonly userAgentData?: {
    readonly mobile: boolean;
    readonly platform: string;
  };
}

/** The kind of device and its system. @param isSmallAndTouched whether its screen is touched, and not a large one */
export function deviceName(isSmallAndTouched: boolean): string {
  const { userAgent, userAgentData } = navigator as BrandedNavigator;
  const mobile = userAgentData?.mobile ?? /Mobi/.test(userAgent);
  const system = userAgentData?.platform ?? /\((?:X11; |Linux; (?=Android))?(\w+)/.exec(userAgent)?.[1] ?? '';
  const kind = mobile ? 'phone' : isSmallAndTouched ? 'tablet' : 'computer';
  return system === '' ? kind : `${kind}, ${system}`;
}
