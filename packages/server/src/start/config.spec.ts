import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CONFIG_NAME, readConfig } from './config';

let folder: string;
let fitsSchema: (value: unknown) => boolean;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'nettle-patch-config-'));
  const schema = await readFile(new URL('../../../../docs/config.schema.json', import.meta.url), 'utf8');
  const ajv = new Ajv2020();
  const validate = ajv.compile(JSON.parse(schema) as object);
  fitsSchema = (value) => validate(value) === true;
});
afterAll(() => rm(folder, { recursive: true }));

const read = async (config: unknown) => {
  await writeFile(join(folder, CONFIG_NAME), typeof config === 'string' ? config : JSON.stringify(config));
  return readConfig(folder);
};

describe('the settings of a project', () => {
  it('are none where there is no file', async () => {
    expect(await readConfig(tmpdir())).toEqual({});
  });

  it('name files from their own folder', async () => {
    const config = {
      target: 'http://localhost:3000',
      mode: 'exact',
      budget: 'quay/budget.json',
      steps: 'steps.json',
    };
    expect(await read(config)).toEqual({
      ...config,
      budget: join(folder, 'quay/budget.json'),
      steps: join(folder, 'steps.json'),
    });
  });

  it.each([
    [{ mode: 'closely' }, /nettle-patch\.config\.json: .*mode/],
    [{ port: '4780' }, /port/],
    [{ port: 70_000 }, /port/],
    [{ leaveOut: 'vendor' }, /leaveOut/],
    [{ leaveOut: [''] }, /leaveOut/],
    [{ targets: 'http://localhost:3000' }, /there is no setting "targets"/],
    [[], /object/],
  ])('that do not fit are refused with the name of what does not: %j', async (config, message) => {
    await expect(read(config)).rejects.toThrow(message);
    expect(fitsSchema(config)).toBe(false);
  });

  it.each([
    {},
    { $schema: 'node_modules/nettle-patch/docs/config.schema.json' },
    { target: 'localhost:3000', leaveOut: ['/vendor/'], isolate: true, open: false, port: 0, proxyPort: 1 },
  ])('fit the schema where they are read: %j', async (config) => {
    await read(config);
    expect(fitsSchema(config)).toBe(true);
  });

  it('that are no JSON are refused by the name of the file', async () => {
    await expect(read('{')).rejects.toThrow(/nettle-patch\.config\.json is no JSON/);
  });
});
