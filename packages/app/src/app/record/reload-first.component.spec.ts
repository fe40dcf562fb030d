import { MatButtonHarness } from '@angular/material/button/testing';
import { DEFAULT_SETTINGS, type ProxySettings } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { DESK_TARGET } from '../../testing/desk-target';
import { shown } from '../../testing/shown';
import { LiveService } from '../services/live.service';
import { ReloadFirstComponent, isLoadedFor } from './reload-first.component';

const CLOSER = 'src/desk/deck/trim.ts:35:3';
const settings = (some: Partial<ProxySettings>) => ({ ...DEFAULT_SETTINGS, isModeChosen: true, ...some });
const FINE = settings({ mode: 'fine' });
const EXACT = settings({ mode: 'exact' });
const LOADED_FINE = { ...DESK_TARGET, available: ['fine-samples'] };

describe('whether a page has to be loaded again', () => {
  it('does where it was loaded for another mode; native apps and everyday recordings need nothing of it', () => {
    expect(isLoadedFor(DESK_TARGET, EXACT)).toBe(false);
    expect(isLoadedFor(LOADED_FINE, EXACT)).toBe(false);
    expect(isLoadedFor({ ...DESK_TARGET, available: ['exact-calls'] }, EXACT)).toBe(true);
    expect(isLoadedFor({ ...DESK_TARGET, url: 'app://deckhand' }, EXACT)).toBe(true);
    expect(isLoadedFor(DESK_TARGET, settings({ mode: 'everyday' }))).toBe(true);
  });

  it('does where another function is looked at closer than is wanted, or one that no longer is', () => {
    expect(isLoadedFor(LOADED_FINE, { ...FINE, closer: CLOSER })).toBe(false);
    expect(isLoadedFor({ ...LOADED_FINE, closer: CLOSER }, { ...FINE, closer: CLOSER })).toBe(true);
    expect(isLoadedFor({ ...LOADED_FINE, closer: CLOSER }, FINE)).toBe(false);
  });

  it('does where it is isolated and should not be, or the other way round, but not where no page can be', () => {
    const isolated = { ...LOADED_FINE, isolated: true };
    const ordinary = { ...LOADED_FINE, isolated: false };
    expect([isolated, ordinary, LOADED_FINE].map((target) => isLoadedFor(target, FINE))).toEqual([
      ...[false, true, true],
    ]);
    const wanted = { ...FINE, isolate: true };
    expect([isolated, ordinary, LOADED_FINE].map((target) => isLoadedFor(target, wanted))).toEqual([
      ...[true, false, true],
    ]);
  });

  it('has it loaded again', async () => {
    const reloaded: string[] = [];
    const live = { provide: LiveService, useValue: { reload: (id: string) => reloaded.push(id) } };
    const { loader, texts } = await shown(ReloadFirstComponent, { target: DESK_TARGET }, [live]);
    expect(texts('[role=status]')[0]).toContain('loaded before this was chosen');
    await (await loader.getHarness(MatButtonHarness.with({ text: 'Reload the page' }))).click();
    expect(reloaded).toEqual(['desk']);
  });
});
