import { signal } from '@angular/core';
import { BREAKDOWN_PARTS, type Anatomy } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { shown } from '../../testing/shown';
import { LensService } from '../services/lens.service';
import { BlameComponent } from './blame.component';

const none = Object.fromEntries(BREAKDOWN_PARTS.map((part) => [part, 0]));
const anatomy = (sting: object) =>
  ({
    sting,
    blame: { ...none, scriptOwnMs: 60, layoutMs: 20, idleMs: 20, unexplainedMs: 0.01, totalMs: 100 },
  }) as unknown as Anatomy;

const blame = (sting: object, slower: number) =>
  shown(BlameComponent, { anatomy: anatomy(sting) }, [
    { provide: LensService, useValue: { slower: signal(slower) } },
  ]);

describe('where it went', () => {
  it('lists what took a tenth of a millisecond or more, and the parts sum to the delay', async () => {
    const { texts } = await blame({}, 1);
    expect(texts('tbody tr')).toEqual([
      'own script 60.0 ms',
      'layout 20.0 ms',
      'idle, or off the main thread 20.0 ms',
    ]);
    expect(texts('tfoot tr')).toEqual(['felt delay100.0 ms']);
  });

  it('calls what is no delay a stretch, and estimates for a slower device all but what nothing ran in', async () => {
    const { texts } = await blame({ detail: { type: 'creep' } }, 4);
    expect(texts('tbody tr')[0]).toBe('own script ≈ 240 ms');
    expect(texts('tbody tr').at(-1)).toBe('idle, or off the main thread ≈ 20 ms');
    expect(texts('tfoot tr')).toEqual(['whole stretch≈ 340 ms']);
  });
});
