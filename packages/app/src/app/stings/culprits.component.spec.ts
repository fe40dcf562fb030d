import { signal } from '@angular/core';
import { MatButtonHarness } from '@angular/material/button/testing';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import { describe, expect, it, vi } from 'vitest';
import type { OpenedSting } from '../../workers/analysis/analysis-results';
import { shown } from '../../testing/shown';
import { SettingsService } from '../services/settings.service';
import { LensService } from '../services/lens.service';
import { CulpritsComponent } from './culprits.component';

const changed: object[] = [];
const PROVIDERS = [
  { provide: LensService, useValue: { slower: signal(1) } },
  { provide: SettingsService, useValue: { change: (part: object) => changed.push(part) } },
];

const culprit = (functionId: number, chargedMs: number) => ({
  functionId,
  chargedMs,
  selfMs: chargedMs,
  totalMs: chargedMs,
  savedMs: chargedMs,
  hotLines: [],
});
const named = (name: string) => ({ name, place: 'src/desk/deck/log.ts:36', owner: 'own' as const });

/** A cost that creeps through half a minute in which the thread was free nearly all the time. */
const CREEP = {
  anatomy: {
    culprits: [culprit(1, 878), culprit(2, 228), culprit(3, 4)],
    blame: { totalMs: 27_000, idleMs: 25_500 },
    recorderMs: 31.2,
  },
  functions: new Map([
    [1, named('anonymous in constructor')],
    [2, named('standingFor')],
    [3, named('make')],
  ]),
  codeOfLines: new Map(),
} as unknown as OpenedSting;

describe('what would help most', () => {
  it('names what took a part of the time in which anything ran, however long the thread was free beside it', async () => {
    const inputs = { shown: CREEP, recordingId: 'friday' };
    const { texts } = await shown(CulpritsComponent, inputs, [...PROVIDERS]);
    expect(texts('tbody .name button')).toEqual(['anonymous in constructor', 'standingFor']);
    expect(texts('p.soft')).toEqual(['and 1 more', 'The recorder’s own script took 31.2 ms of it.']);
  });

  it('has the function that is chosen looked at closer', async () => {
    const shownFirst = {
      ...CREEP,
      functions: new Map([
        ...CREEP.functions,
        [1, { ...named('standingFor'), start: 'src/desk/deck/log.ts:36:1' }],
      ]),
    } as unknown as OpenedSting;
    const inputs = { shown: shownFirst, recordingId: 'friday', selected: 1 };
    const { loader } = await shown(CulpritsComponent, inputs, PROVIDERS);
    const buttons = await loader.getAllHarnesses(MatButtonHarness.with({ text: 'Look closer' }));
    expect(buttons).toHaveLength(1);
    const navigate = vi.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
    await buttons[0]!.click();
    expect(navigate).toHaveBeenCalledWith(['/record']);
    expect(changed).toEqual([{ mode: 'fine', closer: 'src/desk/deck/log.ts:36:1' }]);
  });

  it('shows the lines of a function that took the most of it, with their code', async () => {
    const hotLines = [
      { line: 41, chargedMs: 600 },
      { line: 43, chargedMs: 270 },
      { line: 44, chargedMs: 8 },
    ];
    const fine = {
      ...CREEP,
      anatomy: { ...CREEP.anatomy, culprits: [{ ...culprit(1, 878), hotLines }] },
      codeOfLines: new Map([['1 41', 'subscribe(clock, redraw);']]),
    } as unknown as OpenedSting;
    const { texts, element } = await shown(CulpritsComponent, { shown: fine, recordingId: 'friday' }, [
      ...PROVIDERS,
    ]);
    expect(texts('.hot span')).toEqual(['line 41, 68 %', 'line 43, 31 %']);
    expect(texts('.hot code')).toEqual(['subscribe(clock, redraw);', '']);
    expect(element.querySelector('.hot')!.getAttribute('href')).toContain('line=41');
  });
});
