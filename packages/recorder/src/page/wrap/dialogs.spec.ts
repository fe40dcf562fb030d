import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { createCallEventBuffer } from '../exact/call-event-buffer';
import { RecordingSession } from '../session';
import { wrapDialogs } from './dialogs';
import { ScriptEntryTracker } from './script-entries';

vi.mock('../natives', async (actual) => {
  const { nativesOfNow } = await import('../testing/natives-of-now');
  return nativesOfNow(await actual());
});

const OPEN_MS = 3000;
const OWN_MS = 100;

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['performance'] });
  vi.stubGlobal('location', { href: 'http://localhost:4781/board' });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

function recorded(dialog: () => unknown, callback: () => unknown): object[] {
  Object.defineProperty(globalThis, 'confirm', { value: dialog, configurable: true, writable: true });
  const entries = new ScriptEntryTracker(createCallEventBuffer(() => {}));
  wrapDialogs(entries);
  const session = new RecordingSession('friday', 0, false);
  entries.start(session);
  entries.run(callback, undefined, [], { type: 'event-listener', invoker: 'BUTTON.onclick' });
  return session.takeRows().filter(({ kind }) => kind === 'handler');
}

it('takes the time a dialog was open off the code that opened it, and gives the answer on', () => {
  const ask = globalThis as unknown as { confirm(question: string): boolean };
  let answer: unknown;
  const rows = recorded(
    (question?: unknown) => {
      vi.advanceTimersByTime(OPEN_MS);
      return question === 'Sail?';
    },
    () => {
      vi.advanceTimersByTime(OWN_MS);
      answer = ask.confirm('Sail?');
    },
  );
  expect(answer).toBe(true);
  expect(rows).toMatchObject([{ durationMs: OPEN_MS + OWN_MS, pauseMs: OPEN_MS }]);
});

it('takes it off when the dialog fails, too, and says nothing of it where there was none', () => {
  const failing = recorded(
    () => {
      vi.advanceTimersByTime(OPEN_MS);
      throw new Error('not allowed here');
    },
    () => {
      try {
        (globalThis as unknown as { confirm(): void }).confirm();
      } catch {
        vi.advanceTimersByTime(OWN_MS);
      }
    },
  );
  expect(failing).toMatchObject([{ pauseMs: OPEN_MS }]);
  const without = recorded(
    () => true,
    () => vi.advanceTimersByTime(OWN_MS),
  );
  expect(without[0]).not.toHaveProperty('pauseMs');
});
