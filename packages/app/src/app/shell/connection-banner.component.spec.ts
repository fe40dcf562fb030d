import { signal } from '@angular/core';
import { describe, expect, it } from 'vitest';
import { INITIAL_LIVE_STATE, type LiveState } from '../../workers/live/live-state';
import { shown } from '../../testing/shown';
import { LiveService } from '../services/live.service';
import { ConnectionBannerComponent } from './connection-banner.component';

async function banner(state: Partial<LiveState>): Promise<string[]> {
  const live = { state: signal({ ...INITIAL_LIVE_STATE, ...state }) };
  const { texts } = await shown(ConnectionBannerComponent, {}, [{ provide: LiveService, useValue: live }]);
  return texts('[role=status]');
}

describe('the banner', () => {
  it.each([
    ['lost', 'Trying again every second'],
    ['wrong-secret', 'Open the address it printed'],
    ['no-secret', 'Open the address that the server printed'],
  ] as const)('says what to do where the connection is %s', async (connection, words) => {
    expect(await banner({ connection, elsewhere: true })).toEqual([expect.stringContaining(words)]);
  });

  it('says that another tab records, and else nothing', async () => {
    expect(await banner({ connection: 'open', elsewhere: true })).toEqual([
      expect.stringContaining('Another tab'),
    ]);
    expect(await banner({ connection: 'open' })).toEqual([]);
  });
});
