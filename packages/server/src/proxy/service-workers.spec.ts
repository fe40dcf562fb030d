import type { IncomingMessage } from 'node:http';
import { describe, expect, it } from 'vitest';
import { ServiceWorkers } from './service-workers';

const asked = (url: string, destination: string, referer?: string) =>
  ({
    url,
    headers: { 'sec-fetch-dest': destination, ...(referer === undefined ? {} : { referer }) },
  }) as IncomingMessage;
const WORKER = 'http://localhost:4781/keeper.js?v=2';

describe('what service workers ask for', () => {
  it('is known by the address they ask from, once their script was asked for', () => {
    const workers = new ServiceWorkers();
    const chunk = asked('/lazy.js', 'empty', WORKER);
    expect(workers.askForScript(chunk)).toBe(false);
    workers.note(asked('/keeper.js?v=2', 'serviceworker'));
    expect(workers.askForScript(chunk)).toBe(true);
  });

  it('is no script where it has another name, nor where a page asks', () => {
    const workers = new ServiceWorkers();
    workers.note(asked('/keeper.js?v=2', 'serviceworker'));
    workers.note(asked('/desk.js', 'script'));
    expect(workers.askForScript(asked('/api/crew', 'empty', WORKER))).toBe(false);
    expect(workers.askForScript(asked('/lazy.js', 'empty', 'http://localhost:4781/'))).toBe(false);
    expect(workers.askForScript(asked('/lazy.js', 'empty', 'http://localhost:4781/desk.js'))).toBe(false);
    expect(workers.askForScript(asked('/lazy.js', 'empty', 'no address'))).toBe(false);
    expect(workers.askForScript(asked('/lazy.js', 'empty'))).toBe(false);
  });
});
