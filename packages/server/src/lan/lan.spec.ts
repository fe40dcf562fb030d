import { DEFAULT_SETTINGS } from '@nettle-patch/core';
import { expect, it } from 'vitest';
import { ProxyControl } from '../proxy/proxy-control';
import { Relay } from '../relay/relay';
import { Lan } from './lan';

it('lets nobody into the next room by a secret of the last', async () => {
  const lan = new Lan({
    targetOrigin: () => 'http://localhost:1',
    relay: new Relay(),
    control: new ProxyControl(DEFAULT_SETTINGS),
    port: () => 0,
  });
  await lan.open('127.0.0.1');
  const { code } = lan.devices.code;
  const device = lan.devices.pair(code, '127.0.0.1')!;
  const visit = () =>
    fetch(`${lan.origin}/__nettle-patch/join`, {
      headers: { cookie: `nettle-patch-device=${device.secret}` },
    });
  expect((await visit()).status).toBe(200);
  await lan.open('127.0.0.1');
  expect((await visit()).status).toBe(403);
  expect(lan.state).toMatchObject({ open: true, devices: [] });
  lan.close();
});
