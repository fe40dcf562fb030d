#!/usr/bin/env node
import { existsSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const program = new URL('../dist/cli.js', import.meta.url);
if (!existsSync(fileURLToPath(program))) {
  console.error('nettle-patch is not built yet. Run "npm run build" in the project first.');
  process.exit(1);
}
await import(program.href);
