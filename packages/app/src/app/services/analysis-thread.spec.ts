import { expose } from 'comlink';
import { firstValueFrom } from 'rxjs';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { AnalysisThread } from './analysis-thread';

const ends: (() => void)[] = [];

afterEach(() => {
  for (const end of ends.splice(0)) end();
});

/** A thread whose answers are given by hand, and what it was asked. */
function aThread(onDeath: (words: string) => void = () => undefined) {
  const { port1, port2 } = new MessageChannel();
  ends.push(() => (port1.close(), port2.close()));
  const asked: unknown[] = [];
  const answers: ((answer: unknown) => void)[] = [];
  const worker = {
    ask: (_name: string, [about]: unknown[]) => {
      asked.push(about);
      return new Promise((resolve) => answers.push(resolve));
    },
  };
  expose(worker, port2);
  port1.start();
  const terminate = vi.fn<() => void>();
  const thread = new AnalysisThread(onDeath, () => Object.assign(port1, { terminate }) as unknown as Worker);
  const until = (holds: () => void) => vi.waitFor(holds, { timeout: 10_000 });
  const answer = async (value: unknown) => {
    await until(() => expect(answers).not.toHaveLength(0));
    answers.shift()!({ value });
  };
  return { thread, asked, answer, until, port: port1, terminate };
}

describe('a thread that analyses', () => {
  it('is asked one question after the other', async () => {
    const { thread, asked, answer, until } = aThread();
    const first = firstValueFrom(thread.ask('functionName', 1));
    const second = firstValueFrom(thread.ask('functionName', 2));
    await until(() => expect(asked).toEqual([1]));
    await answer('foldAccents');
    expect(await first).toEqual({ value: 'foldAccents' });
    await answer('trimOfPair');
    expect(await second).toEqual({ value: 'trimOfPair' });
    expect(asked).toEqual([1, 2]);
  });

  it('is never asked what nobody waits for any more', async () => {
    const { thread, asked, answer } = aThread();
    const first = firstValueFrom(thread.ask('functionName', 1));
    const superseded = vi.fn<(answer: unknown) => void>();
    const waiting = thread.ask('functionName', 2).subscribe(superseded);
    const last = firstValueFrom(thread.ask('functionName', 3));
    waiting.unsubscribe();
    await answer('foldAccents');
    await first;
    await answer('bendingOf');
    expect(await last).toEqual({ value: 'bendingOf' });
    expect(asked).toEqual([1, 3]);
    expect(superseded).not.toHaveBeenCalled();
  });

  it('asks nothing before somebody waits for the answer', async () => {
    const { thread, asked } = aThread();
    thread.ask('functionName', 1);
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(asked).toEqual([]);
  });

  it('that ends by itself is told of, once', () => {
    const onDeath = vi.fn<(words: string) => void>();
    const { port } = aThread(onDeath);
    const error = (message: string) => Object.assign(new Event('error'), { message });
    port.dispatchEvent(error('out of memory'));
    port.dispatchEvent(error('again'));
    expect(onDeath.mock.calls).toEqual([['out of memory']]);
  });
});
