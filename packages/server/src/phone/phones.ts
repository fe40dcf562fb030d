import { spawn, type ChildProcess } from 'node:child_process';
import { array, number, object, string, type InferType } from 'yup';
import { builtPath } from '../assets';

/** What is wrong with the phone; each has a mended version. */
export const PHONE_FAULTS = ['decode-on-main', 'shared-lock', 'deep-views', 'garbage-in-scroll'] as const;

export const phoneSchema = object({
  /** Pictures a second that its display asks for. */
  hz: number<60 | 120>().oneOf([60, 120]).default(60),
  seed: number()
    .integer()
    .min(0)
    .max(2 ** 31)
    .default(7),
  mended: array(string().oneOf(PHONE_FAULTS).required()).max(PHONE_FAULTS.length).default([]),
}).noUnknown();
export type PhoneSettings = InferType<typeof phoneSchema>;

/** Starts the simulated phone as a program of its own, which joins as a real one would. */
export function startPhone(
  address: string,
  { hz, seed, mended }: PhoneSettings,
  stdio: 'ignore' | 'inherit',
): ChildProcess {
  const flags = ['--hz', String(hz), '--seed', String(seed), '--mended', mended.join(',')];
  // Node 20 has the standard WebSocket only behind a flag.
  return spawn(
    process.execPath,
    ['--experimental-websocket', '--no-warnings', builtPath('phone'), address, ...flags],
    { stdio },
  );
}

/** The simulated phones that the server has started; at most one at a time. */
export class Phones {
  #phone: ChildProcess | undefined;

  constructor(private readonly address: () => string) {}

  /** Starts a phone in place of the one that runs. */
  start(settings: PhoneSettings): void {
    this.stop();
    this.#phone = startPhone(this.address(), settings, 'ignore');
    this.#phone.on('error', () => (this.#phone = undefined));
  }

  stop(): void {
    this.#phone?.kill();
    this.#phone = undefined;
  }
}
