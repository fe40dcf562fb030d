/**
 * `npm run format:docs`: writes the tables of docs/recording-format.md and docs/recording.schema.json from the shapes
 * of the rows, and the table of kinds in docs/reports.md from the detectors.
 */
import { readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { run } from './lib/prepare.mjs';

const path = (relative) => fileURLToPath(new URL(`../${relative}`, import.meta.url));
const { outputFiles } = await build({
  stdin: {
    contents: `
      export { ROW_SHAPES } from './format/rows';
      export { lineSchema } from './format/json-schema';
      export { kindsTable } from './detectors/kinds';`,
    resolveDir: path('packages/core/src'),
    loader: 'ts',
  },
  bundle: true,
  format: 'esm',
  write: false,
});
const { ROW_SHAPES, kindsTable, lineSchema } = await import(
  `data:text/javascript;base64,${Buffer.from(outputFiles[0].contents).toString('base64')}`
);

function table(kind, shape) {
  const rows = Object.entries(shape).map(
    ([name, { type, optional, about }]) =>
      `| \`${name}\` | ${type}${optional ? ', optional' : ''} | ${about} |`,
  );
  return `### ${kind}\n\n| field | type | |\n| --- | --- | --- |\n${rows.join('\n')}\n\n`;
}

const file = path('docs/recording-format.md');
const text = readFileSync(file, 'utf8');
const [before, rest] = text.split('\n## Rows\n');
const after = rest.slice(rest.indexOf('\n## '));
const tables = Object.entries(ROW_SHAPES).map(([kind, shape]) => table(kind, shape));
writeFileSync(file, `${before}\n## Rows\n\n${tables.join('')}${after.trimStart()}`);
const schemaFile = path('docs/recording.schema.json');
writeFileSync(schemaFile, `${JSON.stringify(lineSchema(), null, 2)}\n`);
const reports = path('docs/reports.md');
const [head, tail] = readFileSync(reports, 'utf8').split(
  /(?<=^### Kinds of stings\n\n.*\n\n)[^]*?(?=\n\n## )/m,
);
writeFileSync(reports, `${head}${kindsTable()}${tail}`);
process.exitCode = run('npx', ['prettier', '--write', '--log-level', 'warn', file, schemaFile, reports]);
