import type { Step } from '@nettle-patch/core';
import { describe, expect, it } from 'vitest';
import { shown } from '../../testing/shown';
import { StepListComponent } from './step-list.component';

const STEPS: Step[] = [
  { do: 'click', on: '#board-all' },
  { do: 'wait', ms: 500 },
  { do: 'key', key: 'Escape' },
];

async function list() {
  const one = await shown(StepListComponent, { steps: STEPS });
  const find = <Found extends HTMLElement>(label: string) =>
    one.element.querySelector<Found>(`[aria-label^="${label}"]`)!;
  const press = async (label: string, key: string) => {
    find(label).dispatchEvent(new KeyboardEvent('keydown', { key, cancelable: true }));
    await one.fixture.whenStable();
  };
  const write = async (text: string) => {
    const field = find<HTMLInputElement>('Step ');
    field.value = text;
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    await one.fixture.whenStable();
  };
  const click = async (label: string) => {
    find(label).click();
    await one.fixture.whenStable();
  };
  return { ...one, press, write, click, deeds: () => one.texts('.deed') };
}

describe('the list of steps', () => {
  it('is put in another order by the arrow keys on a handle, and not beyond its ends', async () => {
    const { press, deeds, component } = await list();
    await press('Move step 1', 'ArrowDown');
    expect(deeds()).toEqual(['wait', 'click', 'press']);
    await press('Move step 1', 'ArrowUp');
    await press('Move step 3', 'ArrowDown');
    expect(component.steps()).toEqual([STEPS[1], STEPS[0], STEPS[2]]);
  });

  it('has a step changed in place, and says at it what is wrong', async () => {
    const { click, write, texts, component } = await list();
    await click('Change step 2');
    await write('{"do":"wait","ms":-4}');
    expect(texts('[role=alert]')[0]).toMatch(/ms must be greater than or equal to 0/);
    expect(component.steps()).toEqual(STEPS);
    await write('{"do":"wait","ms":900}');
    expect(component.steps()[1]).toEqual({ do: 'wait', ms: 900 });
  });

  it('leaves steps out, but never the last', async () => {
    const { click, component, element } = await list();
    await click('Leave out step 3');
    await click('Leave out step 1');
    expect(component.steps()).toEqual([STEPS[1]]);
    expect(element.querySelector<HTMLButtonElement>('.out')!.disabled).toBe(true);
  });
});
