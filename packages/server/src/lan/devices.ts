import { randomBytes, randomInt } from 'node:crypto';
import { newSecret, sameSecret } from '../gate/guard';

/** Letters and digits that are not taken for one another. */
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const CODE_LENGTH = 8;
export const CODE_LIVES_MS = 5 * 60_000;
/** A code is given up after so many wrong ones. */
const MAX_WRONG = 10;
const MAX_DEVICES = 20;

/** A device that has been let in. */
export interface Device {
  readonly id: string;
  /** What it shows with each request and connection. */
  readonly secret: string;
  /** Address it joined from, for people. */
  readonly address: string;
  readonly joinedAt: string;
}

/** The code by which the next device is let in. */
export interface PairingCode {
  readonly code: string;
  /** When it ceases to hold, in milliseconds since the epoch. */
  readonly untilMs: number;
}

function newCode(nowMs: number): PairingCode {
  const code = Array.from({ length: CODE_LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('');
  return { code, untilMs: nowMs + CODE_LIVES_MS };
}

/** A code as it is compared: people write small letters, and dashes between. */
const plain = (code: string) => code.toUpperCase().replace(/[^A-Z0-9]/g, '');

/** Devices of the room that were let in by a code which holds for one device and a short time. */
export class Devices {
  readonly #devices = new Map<string, Device>();
  #code: PairingCode;
  #wrong = 0;

  /**
   * @param onTurnedAway is called with the id of a device that is to be heard no more
   * @param now clock, in milliseconds since the epoch
   */
  constructor(
    private readonly onTurnedAway: (id: string) => void,
    private readonly now: () => number = Date.now,
  ) {
    this.#code = newCode(now());
  }

  /** The code that holds now. */
  get code(): PairingCode {
    if (this.now() >= this.#code.untilMs) this.renewCode();
    return this.#code;
  }

  renewCode(): void {
    this.#code = newCode(this.now());
    this.#wrong = 0;
  }

  get list(): readonly Device[] {
    return [...this.#devices.values()];
  }

  /** Lets a device in that shows the code. The code holds no longer then. */
  pair(code: string, address: string): Device | undefined {
    if (!sameSecret(plain(code), this.code.code)) {
      if (++this.#wrong >= MAX_WRONG) this.renewCode();
      return undefined;
    }
    this.renewCode();
    const joinedAt = new Date(this.now()).toISOString();
    const device = { id: randomBytes(6).toString('hex'), secret: newSecret(), address, joinedAt };
    this.#devices.set(device.id, device);
    const [oldest] = this.#devices.keys();
    if (this.#devices.size > MAX_DEVICES && oldest !== undefined) this.revoke(oldest);
    return device;
  }

  withSecret(secret: string | undefined): Device | undefined {
    return this.list.find((device) => sameSecret(secret, device.secret));
  }

  /** Hears a device no more. It needs a new code to be let in again. */
  revoke(id: string): void {
    if (this.#devices.delete(id)) this.onTurnedAway(id);
  }
}
