import { randomUUID } from 'node:crypto';
import { Emitter, type EmitterCommands } from '../../../../docs/reference-emitter.mjs';
import { PHONE_FAULT_NAMES, isPhoneFault, type PhoneFault } from '@nettle-patch/core';
import { Phone } from './phone';

const TELL_EVERY_MS = 250;

/** `phone.js ADDRESS [--hz 60|120] [--seed N] [--mended fault,fault|all] [--code CODE]` */
const [address = 'http://localhost:4781', ...options] = process.argv.slice(2);
const valueOf = (name: string) => (options.includes(name) ? options[options.indexOf(name) + 1] : undefined);
const hz = valueOf('--hz') === '120' ? 120 : 60;
const seed = Number(valueOf('--seed') ?? 7);
const named = valueOf('--mended')?.split(',') ?? [];
const mended = new Set<PhoneFault>(named.includes('all') ? PHONE_FAULT_NAMES : named.filter(isPhoneFault));

const available = ['event', 'longtask', 'stacks', 'display-sync', 'thread-states', 'collections', 'memory'];
const target = {
  id: `phone-${randomUUID()}`,
  title: 'Deckhand · Skerry Line',
  url: 'app://deckhand',
  engine: 'Deckhand 3',
  device: `phone, ${hz} Hz`,
  available,
  missing: [],
};

let phone: Phone | undefined;
let startedAt = 0;
let pausedAt: number | undefined;
const nowMs = () => (pausedAt ?? Date.now()) - startedAt;

const on: EmitterCommands = {
  start: (id) => {
    phone = new Phone({ seed, hz, mended });
    startedAt = Date.now();
    pausedAt = undefined;
    const { title, url, engine, device } = target;
    return {
      kind: 'header',
      format: 'nettle-patch',
      version: '1.1',
      id,
      startedAt: new Date(startedAt).toISOString(),
      title,
      mode: 'everyday',
      startUp: false,
      clockStepMs: 0.001,
      delayStepMs: 0.001,
      refreshMs: 1000 / hz,
      target: { title, url, engine, device },
      available,
      missing: [],
    };
  },
  stop: () => {
    emitter.add(phone?.until(nowMs()) ?? []);
    phone = undefined;
    return { kind: 'end', startMs: nowMs(), reason: 'stopped' };
  },
  pause: () => (pausedAt = Date.now()),
  goOn: () => {
    const pausedForMs = Date.now() - (pausedAt ?? Date.now());
    startedAt += pausedForMs;
    pausedAt = undefined;
    return [];
  },
  note: (text) => [{ kind: 'span', thread: 0, startMs: nowMs(), durationMs: 0, type: 'note', name: text }],
};
const emitter = new Emitter(address, target, on, valueOf('--code'));

setInterval(() => {
  if (phone !== undefined) emitter.add(phone.until(nowMs()));
}, TELL_EVERY_MS);
console.log(`The deckhand's phone (${hz} Hz, seed ${seed}) joins ${address}`);
void emitter.connect();
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.once(signal, () => {
    emitter.close();
    process.exit(0);
  });
}
