import { spawn, type ChildProcess } from 'node:child_process';
import { array, number, object, string, type InferType } from 'yup';
import { PHONE_FAULT_NAMES, type PhoneFault } from '@nettle-patch/core';
import { builtPath } from '../assets';

export const phoneSchema = object({
  /** Pictures a second that its display asks for. */
  hz: number<60 | 120>().oneOf([60, 120]).default(60),
  seed: number()
    .integer()
    .min(0)
    .max(2 ** 31)
    .default(7),
  mended: array(string<PhoneFault>().oneOf(PHONE_FAULT_NAMES).required())
    .max(PHONE_FAULT_NAMES.length)
    .default([]),
}).noUnknown();
export type PhoneSettings = InferType<typeof phoneSchema>;

/** Starts the simulated phone as a program of its own, which joins as a real one would. */
export function startPhone(
  address: string,
  { hz, seed, mended }: PhoneSettings,
  stdio: 'ignore' | 'inherit',
  code?: string,
): ChildProcess {
  const flags = ['--hz', String(hz), '--seed', String(seed), '--mended', mended.join(',')];
  if (code !== undefined) flags.push('--code', code);
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
