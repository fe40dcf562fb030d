import { execFile } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect, test } from '@playwright/test';
import { localApp } from './local-app';

/** Work of a set size, which takes as long as the browser is slow. */
const PAGE = `<!doctype html><title>Boarding desk</title><button id="board">Board</button><script>
  document.querySelector('#board').onclick = () => {
    let sum = 0;
    for (let at = 0; at < 4e7; at++) sum += Math.sqrt(at % 97);
    document.title = String(sum);
  };
</script>`;

for (const browser of ['chromium', 'firefox', 'webkit']) {
  test(
    `${browser}: a slowed run takes longer, and says by how much it was measured to`,
    { tag: '@waits' },
    async () => {
      test.setTimeout(240_000);
      const app = await localApp((_, response) => response.setHeader('content-type', 'text/html').end(PAGE));
      const address = app.url;
      const folder = mkdtempSync(join(tmpdir(), 'slowed-'));
      /** The header of a recording of the page, and how long the tap took. Milliseconds. */
      const recorded = async (...more: string[]) => {
        const out = join(folder, 'slowed.jsonl');
        const command = ['packages/server/bin/nettle-patch.js', 'record', address, '--browser', browser];
        const steps = ['--steps', join(folder, 'steps.json'), '--out', out];
        await promisify(execFile)(process.execPath, [...command, ...steps, ...more]);
        const [header, ...rows] = readFileSync(out, 'utf8')
          .trim()
          .split('\n')
          .map((line) => JSON.parse(line) as Record<string, unknown>);
        const longest = Math.max(
          ...rows.filter(({ kind }) => kind === 'input').map(({ durationMs }) => Number(durationMs)),
        );
        return { header: header!, longest };
      };
      try {
        const steps = [
          { do: 'click', on: '#board' },
          { do: 'wait', ms: 3000 },
        ];
        writeFileSync(join(folder, 'steps.json'), JSON.stringify({ steps }));
        const usual = await recorded();
        expect(usual.header).not.toHaveProperty('slowed');
        const slow = await recorded('--slow', '4');
        expect(slow.header).toMatchObject({ slowed: 4 });
        expect(Number(slow.header['speed'])).toBeGreaterThan(1.5);
        expect(slow.longest).toBeGreaterThan(1.5 * usual.longest);
        test.info().annotations.push({
          type: 'measured',
          description: `${browser}: asked 4 ×, measured ${String(slow.header['speed'])} ×, the tap ${usual.longest} and ${slow.longest} ms`,
        });
      } finally {
        app.close();
        rmSync(folder, { recursive: true });
      }
    },
  );
}
