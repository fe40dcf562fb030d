import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { encodeRecording } from '@nettle-patch/core';
import { Command } from 'commander';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { tapped } from '../../../core/src/testing/tapped';
import { addTrend } from './trend-command';

const DAY_MS = 86_400_000;
let folder: string;
let written: string;

/** Keeps a recording of a day in which one button was tapped three times. */
async function keep(day: number, ms: number): Promise<void> {
  const recording = tapped(ms, ms + 8, ms + 16);
  const startedAt = new Date(Date.UTC(2026, 10, 1) + day * DAY_MS).toISOString();
  const lines = encodeRecording({
    ...recording,
    header: { ...recording.header, startedAt, title: `release ${day}` },
  } as typeof recording);
  const name = `release-${String(day).padStart(2, '0')}.nettle.jsonl`;
  await writeFile(join(folder, name), [...lines, ''].join('\n'));
}

async function trend(...args: string[]): Promise<void> {
  const program = new Command().exitOverride();
  addTrend(program);
  await program.parseAsync(['trend', ...args], { from: 'user' });
}

beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'trend-'));
  written = '';
  vi.spyOn(process.stdout, 'write').mockImplementation((text) => {
    written += String(text);
    return true;
  });
  vi.spyOn(console, 'error').mockImplementation((text) => {
    written += String(text);
  });
});

afterEach(async () => {
  vi.restoreAllMocks();
  process.exitCode = undefined;
  await rm(folder, { recursive: true });
});

describe('trend', () => {
  it('says from which recording of a folder on something became slower, and writes a page', async () => {
    for (let day = 1; day <= 16; day++) await keep(day, (day < 9 ? 120 : 260) + 8 * (day % 3));
    await writeFile(join(folder, 'half.nettle.jsonl'), 'no recording');
    const page = join(folder, 'trend.html');
    await trend(folder, '--out', page);
    expect(written).toContain('left out: ');
    expect(await readFile(page, 'utf8')).toContain('slower from “release 9”');
    written = '';
    await trend(folder);
    expect(written).toMatch(/slower from “release 9”\s\(Nov 10, 2026\) on: 2\d\d ms, before\s1\d\d ms/);
    expect(process.exitCode).toBeUndefined();
  });

  it('refuses a folder without recordings, or none, in words', async () => {
    await trend(folder);
    expect([process.exitCode, written]).toEqual([2, expect.stringContaining('holds no recording')]);
    await trend(join(folder, 'nowhere'));
    expect(written).toContain('is no folder that can be read');
  });
});
