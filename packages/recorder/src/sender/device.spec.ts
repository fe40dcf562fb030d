import { afterEach, describe, expect, it, vi } from 'vitest';
import { deviceName } from './device';

afterEach(() => vi.unstubAllGlobals());

const named = (userAgent: string, userAgentData?: { mobile: boolean; platform: string }) => {
  vi.stubGlobal('navigator', { userAgent, userAgentData });
  return deviceName(false);
};

describe('the name of a device', () => {
  it('is the same for engines on one computer, whatever else they tell of it', () => {
    const linux = 'computer, Linux';
    expect(named('', { mobile: false, platform: 'Linux' })).toBe(linux);
    expect(named('Mozilla/5.0 (X11; Linux x86_64; rv:153.0) Gecko/20100101')).toBe(linux);
    expect(named('Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/605.1.15')).toBe(linux);
    expect(named('', { mobile: false, platform: 'Windows' })).toBe(
      named('Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:153.0) Gecko/20100101'),
    );
  });

  it('tells a phone', () => {
    expect(named('Mozilla/5.0 (Linux; Android 14; Skerry 3) Mobile Safari/537.36')).toBe('phone, Android');
    expect(named('Mozilla/5.0 (Android 14; Mobile; rv:153.0)')).toBe('phone, Android');
    expect(named('Mozilla/5.0 (iPhone; CPU iPhone OS 26_0 like Mac OS X) Mobile')).toBe('phone, iPhone');
    expect(named('nothing')).toBe('computer');
  });
});
