import { describe, expect, it, vi } from 'vitest';
import { CODE_LIVES_MS, Devices } from './devices';

function devicesAt(start = 1_000_000) {
  const clock = { ms: start };
  const turnedAway = vi.fn<(id: string) => void>();
  return { clock, turnedAway, devices: new Devices(turnedAway, () => clock.ms) };
}

describe('devices of the room', () => {
  it('are let in by the code that holds, however it is written, and known by a secret of their own', () => {
    const { devices } = devicesAt();
    const { code } = devices.code;
    expect(code).toMatch(/^[A-HJ-NP-Z2-9]{8}$/);
    const phone = devices.pair(`${code.slice(0, 4).toLowerCase()}-${code.slice(4)}`, '192.168.1.7')!;
    expect(devices.withSecret(phone.secret)).toBe(phone);
    expect(devices.withSecret('other')).toBeUndefined();
    expect(devices.withSecret(undefined)).toBeUndefined();
  });

  it('are let in by a code once only', () => {
    const { devices } = devicesAt();
    const { code } = devices.code;
    expect(devices.pair(code, 'a')).toBeDefined();
    expect(devices.pair(code, 'b')).toBeUndefined();
    expect(devices.list).toHaveLength(1);
  });

  it('are not let in by a code whose time is over', () => {
    const { devices, clock } = devicesAt();
    const { code, untilMs } = devices.code;
    expect(untilMs - clock.ms).toBe(CODE_LIVES_MS);
    clock.ms = untilMs - 1;
    expect(devices.code.code).toBe(code);
    clock.ms = untilMs;
    expect(devices.pair(code, 'a')).toBeUndefined();
    expect(devices.code.code).not.toBe(code);
  });

  it('that guess have ten tries before there is another code', () => {
    const { devices } = devicesAt();
    const { code } = devices.code;
    for (let guess = 0; guess < 10; guess++) expect(devices.pair('AAAAAAAA', 'a')).toBeUndefined();
    expect(devices.pair(code, 'a')).toBeUndefined();
    expect(devices.list).toEqual([]);
  });

  it('that are turned away are known no more; beyond twenty the first has to go', () => {
    const { devices, turnedAway } = devicesAt();
    const joined = Array.from({ length: 21 }, () => devices.pair(devices.code.code, 'a')!);
    expect(turnedAway.mock.calls).toEqual([[joined[0]!.id]]);
    devices.revoke(joined[5]!.id);
    devices.revoke('nobody');
    expect(turnedAway.mock.calls).toEqual([[joined[0]!.id], [joined[5]!.id]]);
    expect(devices.withSecret(joined[5]!.secret)).toBeUndefined();
    expect(devices.list).toHaveLength(19);
  });
});
