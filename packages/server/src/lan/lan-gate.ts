import type { IncomingMessage } from 'node:http';
import type { AccessPolicy, Client } from '../gate/access-policy';
import { hostsAt } from '../gate/guard';
import type { Devices } from './devices';

export const DEVICE_COOKIE = 'nettle-patch-device';

/** Value of a cookie of a request (RFC 6265, section 5.4). */
function cookieOf(request: IncomingMessage, name: string): string | undefined {
  const pairs = (request.headers.cookie ?? '').split(';').map((pair) => pair.trim());
  return pairs.find((pair) => pair.startsWith(`${name}=`))?.slice(name.length + 1);
}

/** Open to devices that were let in by a code, each with a secret of its own that can be taken back. */
export class LanGate implements AccessPolicy {
  constructor(
    private readonly devices: Devices,
    private readonly address: string,
    private readonly port: () => number,
  ) {}

  get hosts(): readonly string[] {
    return hostsAt(this.port(), [this.address]);
  }

  get origin(): string {
    return `http://${this.address}:${this.port()}`;
  }

  secretFor(request: IncomingMessage): string | undefined {
    return this.devices.withSecret(cookieOf(request, DEVICE_COOKIE))?.secret;
  }

  visitorWith(secret: string | undefined): Client | undefined {
    const device = this.devices.withSecret(secret);
    return device && { device: device.id };
  }
}
