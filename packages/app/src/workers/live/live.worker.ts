import { expose } from 'comlink';
import { NettleDatabase } from '../../store/database';
import { RecordingStore } from '../../store/recording-store';
import { LiveSession } from './live-session';
import type { LiveState } from './live-state';

/** What the interface may ask of the worker that follows targets. */
export class LiveWorker {
  #link: LiveSession | undefined;

  connect(origin: string, secret: string, tell: (state: LiveState) => void): void {
    this.#link = new LiveSession(new RecordingStore(new NettleDatabase()), tell);
    this.#link.connect(origin, secret);
  }

  start(targetId: string, withNextLoad: boolean): void {
    this.#link?.start(targetId, withNextLoad);
  }

  command(type: 'pause' | 'go-on' | 'stop' | 'note', text?: string): void {
    this.#link?.command(type, text);
  }

  reload(targetId: string): void {
    this.#link?.reload(targetId);
  }

  dismiss(): void {
    this.#link?.dismiss();
  }
}

expose(new LiveWorker());
