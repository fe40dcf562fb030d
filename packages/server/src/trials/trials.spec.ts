import { createServer, request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { BadTrialError, TRIAL_PATH, type Trial } from '@nettle-patch/core';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { Browser } from '../drive/browser';
import { serve, type Running } from '../serve';
import { BrowserBench } from './browser-bench';
import { trialModules } from './prepare-trial';
import { TrialOrigins } from './trial-origins';
import { trialsPart } from './trials-part';

vi.mock('../assets');

const TRIAL: Trial = {
  name: 'Fares',
  place: 'worker',
  setUp: 'const fares = [3, 4];',
  alternatives: [
    { name: 'as it is', code: 'return fares.length;' },
    { name: 'another', code: 'let sum = 0;\nfor (const fare of fares) sum += fare;\nreturn sum;' },
  ],
};
const withCode = (code: string, setUp = TRIAL.setUp): Trial => ({
  ...TRIAL,
  setUp,
  alternatives: [TRIAL.alternatives[0]!, { name: 'another', code }],
});

describe('the modules of a trial', () => {
  it('await only where the code does', () => {
    const [plain, awaiting] = trialModules(withCode('return await fares;'));
    expect(plain).toContain('\n;function nettlePatchAlternative');
    expect(awaiting).toContain('\n;async function nettlePatchAlternative');
  });

  it('lose types line by line', () => {
    const [module] = trialModules(
      withCode('return 1;', 'interface Fare {\n  euros: number;\n}\nconst fares: Fare[] = [];'),
    );
    expect(module!.split('\n')[3]).toMatch(/^const fares\s*= \[\];$/);
    expect(module!.split('\n')[5]).toBe('return fares.length;');
  });

  it.each([
    ['return (fares;', TRIAL.setUp, '“another”, line 1'],
    ['const a = 1;\nreturn a +* 2;', TRIAL.setUp, '“another”, line 2'],
    ['return 1;', 'const fares = [;', 'Set-up, line 1'],
  ])('are refused with the place where %j after %j is no code', (code, setUp, place) => {
    expect(() => trialModules(withCode(code, setUp))).toThrow(BadTrialError);
    expect(() => trialModules(withCode(code, setUp))).toThrow(
      `${place}: this is neither JavaScript nor TypeScript`,
    );
  });
});

describe('the origin of trials', () => {
  let app: Server;
  const origins = new TrialOrigins();
  let page: URL;

  beforeAll(async () => {
    app = createServer(({ url }, response) => {
      response.writeHead(200, { 'content-type': 'text/javascript' }).end(`export const path = "${url}";`);
    });
    await new Promise<void>((resolve) => app.listen(0, '127.0.0.1', resolve));
    page = await origins.open(TRIAL, `http://localhost:${(app.address() as AddressInfo).port}`);
  });
  afterAll(() => {
    origins.close();
    app.close();
  });

  it('serves the page, its modules and its scripts, isolated and only for this computer to frame', async () => {
    const html = await fetch(page);
    expect(html.headers.get('content-type')).toMatch(/html/);
    expect(html.headers.get('cross-origin-embedder-policy')).toBe('require-corp');
    expect(html.headers.get('origin-agent-cluster')).toBe('?1');
    expect(html.headers.get('content-security-policy')).toBe(
      "frame-ancestors 'self' http://localhost:* http://127.0.0.1:*",
    );
    expect(await (await fetch(new URL('alternative-1.js', page))).text()).toContain('sum += fare');
    expect((await fetch(new URL('worker.js', page))).status).toBe(200);
  });

  it('serves the app behind it as it is', async () => {
    expect(await (await fetch(new URL('/src/fares.js?v=2', page))).text()).toBe(
      'export const path = "/src/fares.js?v=2";',
    );
  });

  it('knows no other trial, part or name', async () => {
    for (const path of [
      `${TRIAL_PATH}nobody/`,
      'alternative-5.js',
      'alternative-__proto__.js',
      '__proto__',
      'constructor',
    ])
      expect([path, (await fetch(new URL(path, page))).status]).toEqual([path, 404]);
  });

  it('answers to no other name', async () => {
    const status = await new Promise((resolve) =>
      request(page, { headers: { host: 'quay.test' } }, (answer) => resolve(answer.statusCode)).end(),
    );
    expect(status).toBe(421);
  });
});

describe('what the interface asks of trials', () => {
  let running: Running;
  const ask = (body: unknown, path = '', headers: Record<string, string> = {}) =>
    fetch(`${running.interfaceOrigin}/api/trials${path}`, {
      method: 'POST',
      headers: { authorization: `Bearer ${running.secret}`, 'content-type': 'application/json', ...headers },
      body: JSON.stringify(body),
    });

  beforeAll(async () => {
    running = await serve({ port: 0, proxyPort: 0, parts: (targetFor) => [trialsPart(targetFor)] });
  });
  afterAll(() => running.close());

  it('is a page for a trial that needs no app', async () => {
    const { page } = (await (await ask({ trial: TRIAL })).json()) as { page: string };
    expect((await fetch(page)).status).toBe(200);
    expect(new URL(page).origin).not.toBe(running.interfaceOrigin);
  });

  it('is refused in words where it is wrong, needs an app that is not there, or shows no secret', async () => {
    const wrong = await ask({ trial: withCode('return (;') });
    expect([wrong.status, await wrong.text()]).toEqual([400, expect.stringContaining('“another”, line 1')]);
    const none = await ask({ trial: { ...TRIAL, app: 'http://localhost:1/' } });
    expect([none.status, await none.text()]).toEqual([400, expect.stringContaining('Choose an app first')]);
    expect((await ask({ trial: TRIAL }, '', { authorization: 'Bearer nobody' })).status).toBe(401);
    expect((await ask({ question: { do: 'load', at: 0, limitMs: 1 } }, '/nobody')).status).toBe(404);
    expect((await ask({ trial: TRIAL, browser: 'lynx' })).status).toBe(400);
  });
});

describe('a trial in a browser that is driven from here', () => {
  const browserThat = (answer: () => Promise<unknown>) => {
    const calls: string[] = [];
    const browser = {
      name: 'browser',
      navigate: async (url: string) => void calls.push(`to ${url}`),
      call: (source: string) => {
        calls.push(source);
        return answer();
      },
      close: async () => void calls.push('closed'),
    } as unknown as Browser;
    return { browser, calls };
  };

  it('is asked in its page, and its answers are checked', async () => {
    const { browser, calls } = browserThat(async () => ({
      begun: { clockStepMs: 1, engine: 'x' },
    }));
    const bench = new BrowserBench(new URL('http://localhost/trial/'), async () => browser);
    const answer = await bench.ask({ do: 'begin', place: 'worker', limitMs: 100 });
    expect(answer.begun?.clockStepMs).toBe(1);
    expect(calls[0]).toBe('to http://localhost/trial/');
    expect(calls[1]).toContain('"do":"begin"');
    const nonsense = browserThat(async () => ({ begun: 3 }));
    const other = new BrowserBench(new URL('http://localhost/'), async () => nonsense.browser);
    await expect(other.ask({ do: 'begin', place: 'worker', limitMs: 100 })).rejects.toThrow();
  });

  it('is closed where the page stands still, and opened anew for the next start', async () => {
    vi.useFakeTimers();
    let opened = 0;
    const { browser, calls } = browserThat(() => new Promise(() => undefined));
    const bench = new BrowserBench(new URL('http://localhost/'), async () => {
      opened++;
      return browser;
    });
    const asked = bench.ask({ do: 'begin', place: 'page', limitMs: 100 });
    await vi.advanceTimersByTimeAsync(10_000);
    expect((await asked).problem?.kind).toBe('endless');
    expect(calls.at(-1)).toBe('closed');
    expect((await bench.ask({ do: 'load', at: 0, limitMs: 100 })).problem?.kind).toBe('endless');
    expect(opened).toBe(1);
    const again = bench.ask({ do: 'begin', place: 'page', limitMs: 100 });
    await vi.advanceTimersByTimeAsync(10_000);
    await again;
    expect(opened).toBe(2);
    vi.useRealTimers();
  });
});
