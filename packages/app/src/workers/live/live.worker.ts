import { expose } from 'comlink';
import { NettleDatabase } from '../../store/database';
import { RecordingStore } from '../../store/recording-store';
import { LiveSession } from './live-session';
import type { LiveState, RecordingName } from './live-state';

/** What the interface may ask of the worker that follows targets. */
export class LiveWorker {
  #session: LiveSession | undefined;

  connect(origin: string, secret: string, tell: (state: LiveState) => void): void {
    this.#session = new LiveSession(new RecordingStore(new NettleDatabase()), tell);
    this.#session.connect(origin, secret);
  }

  start(targetId: string, withNextLoad: boolean, named: RecordingName): void {
    this.#session?.start(targetId, withNextLoad, named);
  }

  command(type: 'pause' | 'go-on' | 'stop'): void {
    this.#session?.command(type);
  }

  note(text: string): void {
    this.#session?.note(text);
  }

  reload(targetId: string): void {
    this.#session?.reload(targetId);
  }

  dismiss(): void {
    this.#session?.dismiss();
  }
}

expose(new LiveWorker());
