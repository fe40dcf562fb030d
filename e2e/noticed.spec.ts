import { expect, test } from '@playwright/test';
import { unexpected } from './noticed/answers.mjs';
import { ENGINES, needs } from './scripted';

for (const engine of ENGINES) {
  test(`${engine}: a page notices nothing of the recorder but what is written down`, async () => {
    test.setTimeout(600_000);
    needs(engine);
    expect(await unexpected(engine)).toEqual({});
  });
}
