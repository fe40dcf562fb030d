/**
 * The projects of `bench/projects` in front of their usual dev servers and as built: does the tool find the slow tap, its
 * function, file and line, tell own code from libraries, and leave the app as it is? Prints a matrix.
 * `npm run bench -- projects [--projects vite-react,next] [--browsers chromium,firefox,webkit] [--modes everyday,exact] [--json]`
 */
import { createServer } from 'node:http';
import { text } from 'node:stream/consumers';
import {
  DEFAULT_THRESHOLDS,
  anatomyOf,
  displayName,
  findStings,
  ownerOf,
  fileText,
  readRecording,
  recordScript,
} from '../packages/server/dist/index.js';
import { KINDS, startProject } from './lib/project-servers.mjs';
import { openLocalPages } from './lib/plain-pages.mjs';
import { browsersHere } from './lib/browsers.mjs';
import { asJson, say, valueOf } from './lib/options.mjs';

const projects = valueOf('--projects', Object.keys(KINDS).join(',')).split(',');
const browsers = browsersHere();
const modes = valueOf('--modes', 'everyday,exact').split(',');

const wait = (ms) => ({ do: 'wait', ms });
const stepsOf = ({ leads }) => [
  wait(2500),
  ...(leads === undefined ? [] : [{ do: 'click', on: leads }, wait(1500)]),
  ...Array.from({ length: 3 }, () => [{ do: 'click', on: '#weigh' }, wait(700)]).flat(),
];

/** Errors that pages have told since the last look. */
async function startTally() {
  const told = [];
  const server = createServer(async (request, response) => {
    told.push(await text(request));
    response.writeHead(204, { 'access-control-allow-origin': '*' }).end();
  });
  await new Promise((resolve) => server.listen(0, '127.0.0.1', resolve));
  return {
    url: `http://127.0.0.1:${server.address().port}/`,
    take: () => told.splice(0),
    close: () => server.close(),
  };
}

/** File and line of a function, in the source where that is known. */
function placeOf({ sources }, recorded) {
  const file = recorded?.originalFile ?? sources.get(recorded?.source)?.url ?? '';
  return [file, recorded?.originalLine ?? recorded?.line];
}

/** What the recording tells of the slow tap. */
function judged(recording, slow) {
  const sting = findStings(recording, DEFAULT_THRESHOLDS).find(
    ({ kind, label }) => kind === 'slow-response' && label.includes('Weigh'),
  );
  if (sting === undefined) return { found: false };
  const {
    culprits,
    blame,
    sting: { feltMs },
  } = anatomyOf(recording, sting);
  const functions = culprits.map(({ functionId }) => recording.functions.get(functionId));
  const known = functions.find((recorded) => displayName(recorded).endsWith('weighDeck'));
  const owners = [...recording.functions.values()];
  const isLibraryFile = ({ originalFile = '' }) => /node_modules|\.vite\/deps/.test(originalFile);
  const first = functions.find((recorded) => ownerOf(recorded) === 'own');
  return {
    found: true,
    function: known !== undefined && known === first,
    named: `${displayName(first)} ${placeOf(recording, first).join(':')}`,
    file: placeOf(recording, first)[0].endsWith(slow.file.split('/').at(-1)),
    line: known !== undefined && placeOf(recording, known)[1] === slow.line,
    own: first !== undefined,
    libraries: owners.filter((one) => isLibraryFile(one) && one.owner === 'library').length,
    mistaken: owners.filter((one) => isLibraryFile(one) && one.owner === 'own').length,
    unexplained: Math.round((100 * blame.unexplainedMs) / feltMs),
  };
}

const mark = (holds) => (holds ? 'yes' : 'NO');
const tally = await startTally();
const figures = [];
for (const name of projects) {
  const project = await startProject(name, tally.url);
  const plain = await openLocalPages(project.url.href);
  try {
    const errorsWithout = await plain.errors(stepsOf(project), tally);
    const hot = project.hot ? await plain.hot(project, modes) : {};
    for (const browser of browsers) {
      for (const mode of modes) {
        tally.take();
        const { lines, failure } = await recordScript({
          url: project.url,
          steps: stepsOf(project),
          settings: { mode },
          browser,
          repeat: 1,
        });
        if (failure !== undefined) say(`${name}, ${browser}, ${mode}: ${failure.message}`);
        const { recording } = readRecording([Buffer.from(fileText(lines))]);
        const errors = tally.take();
        const result = { project: name, browser, mode, ...judged(recording, project.slow), hot: hot[mode] };
        result.errors = errors.length - errorsWithout.length;
        result.messages = errors;
        figures.push(result);
        say(
          `${name.padEnd(24)} ${browser.padEnd(9)} ${mode.padEnd(9)}` +
            (result.found
              ? ` found yes, function ${mark(result.function)} (${result.named}), file ${mark(result.file)}, line ${mark(result.line)}, own ${mark(result.own)}, libraries ${result.libraries} (${result.mistaken} taken for own), unexplained ${result.unexplained} %`
              : ' found NO') +
            `, errors more ${result.errors}${hot[mode] === undefined ? '' : `, hot ${mark(hot[mode])}`}`,
        );
        if (result.errors > 0) for (const message of errors.slice(0, 4)) say(`    ${message.slice(0, 300)}`);
      }
    }
  } finally {
    await plain.close();
    project.end();
  }
}
tally.close();
if (asJson) console.log(JSON.stringify(figures, null, 2));
