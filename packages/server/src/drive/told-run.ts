import type { Response } from 'express';
import { EndedEarlyError } from './record';

/** What every run tells, beside events of its own. */
type CommonEvent = { readonly type: 'began' } | { readonly type: 'failed'; readonly reason: string };

/** A piece of work of a request, which ends with the signal. */
export type Work<Event> = (tell: (event: Event) => void, signal: AbortSignal) => Promise<void>;

/** Long work for one request at a time, which tells how far it is: lines of JSON, each an event. */
export class ToldRun<Event extends { readonly type: string }> {
  #running: AbortController | undefined;

  get isRunning(): boolean {
    return this.#running !== undefined;
  }

  stop(): void {
    this.#running?.abort();
  }

  /** Does it, and answers until it is done. Ends when whoever asked goes away. What work throws is told as `failed`. */
  async run(response: Response, work: Work<Event>): Promise<void> {
    const control = new AbortController();
    this.#running = control;
    response.on('close', () => control.abort());
    const tell = (event: Event | CommonEvent) => void response.write(`${JSON.stringify(event)}\n`);
    response.type('application/x-ndjson');
    tell({ type: 'began' });
    try {
      await work(tell, control.signal);
    } catch (error) {
      if (!(error instanceof EndedEarlyError)) tell({ type: 'failed', reason: (error as Error).message });
    } finally {
      this.#running = undefined;
      response.end();
    }
  }
}
