/** Looks for files that import each other in a circle, types included, in every package. `npm run lint` runs it. */
import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import ts from 'typescript';
import { root } from './lib/prepare.mjs';

/** The files of the same package that a file imports. */
function importsOf(file, known) {
  const { importedFiles } = ts.preProcessFile(readFileSync(file, 'utf8'), true, true);
  return importedFiles
    .filter(({ fileName }) => fileName.startsWith('.'))
    .map(({ fileName }) => join(dirname(file), fileName))
    .flatMap((path) => [path, `${path}.ts`, join(path, 'index.ts')].find((one) => known.has(one)) ?? []);
}

/** The first circle found on the way down from each file, each circle once; as paths of files. */
function circlesOf(graph) {
  const done = new Set();
  const circles = [];
  const visit = (file, path) => {
    if (path.includes(file)) {
      circles.push([...path.slice(path.indexOf(file)), file]);
      return;
    }
    if (done.has(file)) return;
    for (const next of graph.get(file)) visit(next, [...path, file]);
    done.add(file);
  };
  for (const file of graph.keys()) visit(file, []);
  return circles;
}

const files = ['core', 'instrument', 'recorder', 'server', 'demo', 'app'].flatMap((name) => {
  const folder = join(root, 'packages', name, 'src');
  return readdirSync(folder, { recursive: true })
    .filter((file) => file.endsWith('.ts'))
    .map((file) => join(folder, file));
});
const known = new Set(files);
const circles = circlesOf(new Map(files.map((file) => [file, importsOf(file, known)])));
for (const circle of circles) {
  console.error(`Circle: ${circle.map((file) => relative(join(root, 'packages'), file)).join(' → ')}`);
}
process.exitCode = circles.length > 0 ? 1 : 0;
