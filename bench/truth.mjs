/**
 * What is told of functions and of lines whose cost is known, in each engine.
 * `npm run bench -- truth [functions] [lines] [--rounds 6] [--browsers chromium,firefox,webkit] [--json]`
 */
import { browsersHere } from './lib/browsers.mjs';
import { asJson, valueOf } from './lib/options.mjs';
import { truthOfFunctions } from './lib/truth-of-functions.mjs';
import { truthOfLines } from './lib/truth-of-lines.mjs';

const PARTS = { functions: truthOfFunctions, lines: truthOfLines };
const asked = Object.keys(PARTS).filter((part) => process.argv.includes(part));
const rounds = Number(valueOf('--rounds', '6'));
const browsers = browsersHere();
const figures = {};
for (const part of asked.length > 0 ? asked : Object.keys(PARTS))
  figures[part] = await PARTS[part](browsers, rounds);
if (asJson) console.log(JSON.stringify(figures, null, 2));
