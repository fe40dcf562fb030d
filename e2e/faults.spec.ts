import type { Page } from '@playwright/test';
import { expect, startRecording, stingList, stopRecording, test, toSource } from './stage';

const ALL = [
  'manifest-search',
  'deck-drag',
  'board-all',
  'departures-poll',
  'ticker',
  'tide-chart',
  'deck-log',
  'start-up',
];

interface Way {
  readonly fault: string;
  /** What a person does, or waits for, while it is recorded. */
  readonly act: (desk: Page) => Promise<void>;
  /** The sting to open, a name that its sentence must hold, and the function and the file it leads to. */
  readonly sting: string;
  readonly because: string;
  readonly culprit: string;
  readonly file: RegExp;
  readonly startUp?: true;
}

async function drag(desk: Page, moves: number): Promise<void> {
  const box = (await desk.locator('.vehicle').nth(60).boundingBox())!;
  await desk.mouse.move(box.x + 4, box.y + 4);
  await desk.mouse.down();
  for (let move = 1; move <= moves; move++) {
    await desk.mouse.move(box.x + 4 + move * 8, box.y + 4 + move * 2);
    await desk.waitForTimeout(60);
  }
  await desk.mouse.up();
}

const WAYS: readonly Way[] = [
  {
    fault: 'deck-drag',
    act: async (desk) => {
      await desk.click('#board-all');
      await desk.waitForTimeout(600);
      await drag(desk, 8);
      await desk.waitForTimeout(800);
    },
    sting: 'onDragMove',
    because: 'makeRoomOneByOne',
    culprit: 'makeRoomOneByOne',
    file: /src\/desk\/deck\/drag\.ts$/,
  },
  {
    fault: 'departures-poll',
    act: (desk) => desk.waitForTimeout(9000),
    sting: 'departures',
    because: 'loadDepartures',
    culprit: 'parseDepartures',
    file: /src\/desk\/board\/departures\.ts$/,
  },
  {
    fault: 'ticker',
    act: (desk) => desk.waitForTimeout(3500),
    sting: 'Layout in every frame',
    because: 'moveNotice',
    culprit: 'moveNotice',
    file: /src\/desk\/notices\/ticker\.ts$/,
  },
  {
    fault: 'tide-chart',
    act: (desk) => desk.waitForTimeout(3500),
    sting: 'Idle work of drawTideInEveryFrame',
    because: 'drawTideInEveryFrame',
    culprit: 'drawTideInEveryFrame',
    file: /src\/desk\/tide\/tide-chart\.ts$/,
  },
  {
    fault: 'deck-log',
    act: async (desk) => {
      for (let again = 0; again < 24; again++) {
        await drag(desk, 1);
        await desk.waitForTimeout(1000);
      }
    },
    sting: 'Growing cost',
    because: 'The longer the app ran',
    culprit: 'standingFor',
    file: /src\/desk\/deck\/log\.ts$/,
  },
  {
    fault: 'start-up',
    startUp: true,
    act: (desk) => desk.waitForTimeout(1500),
    sting: 'fares.js',
    because: 'parseFares',
    culprit: 'parseFares',
    file: /src\/desk\/fares\/table\.ts$/,
  },
];

test.setTimeout(100_000);

// The two of a single tap or key, "board all" and "manifest search", are followed the same way in record.spec.ts.
for (const { fault, act, sting, because, culprit, file, startUp } of WAYS) {
  // A poll comes every few seconds, and a cost that creeps takes half a minute to show.
  const tag = fault === 'deck-log' || fault === 'departures-poll' ? ['@waits'] : [];
  test(`${fault}: recorded, opened, understood, and reached in its source`, { tag }, async ({ stage }) => {
    const { tool } = stage;
    const query = ALL.filter((one) => one !== fault || startUp).join(',');
    const desk = await stage.openDesk(`?mended=${query}`);
    if (startUp) {
      await tool.bringToFront();
      await tool.getByRole('radio', { name: /From the next load/ }).click();
      await tool.getByRole('button', { name: 'Record', exact: true }).click();
      await desk.goto(desk.url().replace(',start-up', ''));
      await desk.waitForSelector('[data-ready]');
      await tool.bringToFront();
      await expect(tool.getByText('Recording ·')).toBeVisible();
      await desk.bringToFront();
    } else await startRecording(tool, desk);
    await act(desk);
    await stopRecording(tool);

    await stingList(tool).filter({ hasText: sting }).first().click();
    await expect(tool.getByTestId('because')).toContainText(because);
    await toSource(tool, culprit, file);
  });
}
