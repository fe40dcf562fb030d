/** Builds the recorder: what is put into pages, what sends from a worker of its own, and what is put into workers. */
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { minify } from 'terser';

const path = (relative) => fileURLToPath(new URL(`../../${relative}`, import.meta.url));

/**
 * Names of properties that no row, message to the server or header has, which may be shortened: those of the marks in
 * rewritten scripts, and some that the recorder's files keep to themselves. All files are to have the same short names,
 * which are given in an order that compresses well.
 */
const OWN_PROPERTIES =
  'session onChange callback idOf label sentMore asked firstId latest emit instead happened costFromMs ring mutations methods addValues pausedAtMs apart ending time getters forces functionId inARow styledMs install setters page resume timesMs charged collect lasted onOutermost causeOf capabilities tellWorkers onRendered bothMs exchanges isExact paintedMs onLaidOut intern tables originMs endResumed laidOutMs leaveAt replacements originals onWatch wrote clean isIncomparable current enterAt originEpochMs onRequest onResume socketUrl isInView stoodFor functionLike takeRows handOver unwind isDirty takeAll switch charge wrapHandlers isSmallAndTouched written chain installMs functionAtOffset functionAt placeAt currentId takeCost ranItself giveBack asWritten wrapListening writing joinUrl bodyOpen bodyClose expressionOpen expressionClose waitingBodyOpen waitingBodyClose waitingExpressionOpen waitingExpressionClose waitOpen statementWaitOpen waitClose awaitedOpen awaitedClose bareYieldOpen statementBareYieldOpen handlerOpen loopOpen loopClose loopBodyOpen loopBodyClose keepsTexts keepsText takeDropped functionRows carries probe elementLabel NextTask refreshInterval markInternal arm hosts whole nextNumber began takeIn documents registerScript clockOrigin ofPage startFrame pageCaptures RecordingSession overseeInto nameByText isNamedByText observedCapture framesElsewhere failed sendTrace running tell loadedFrames loadedFiles onEnd always rewritten sampler counts'.split(
    ' ',
  );
/** Single letters that no standard object has for a property that is used here. */
const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvw';
const SHORT_NAMES = Object.fromEntries(
  OWN_PROPERTIES.map((name, at) => [
    name,
    LETTERS[at % LETTERS.length] + '$'.repeat(Math.floor(at / LETTERS.length)),
  ]),
);

/** A module is strict; as a script of its own it has to say so, within its function, as more may follow it in one file. */
function strict(code) {
  const opening = /^\(\(\)=>\{/;
  if (!opening.test(code)) throw new Error('a file of the recorder does not begin with its function');
  return code.replace(opening, '(()=>{"use strict";');
}

const HOW = {
  bundle: true,
  minify: true,
  mangleProps: new RegExp(`^(${OWN_PROPERTIES.join('|')})$`),
  mangleCache: SHORT_NAMES,
  target: 'es2022',
  write: false,
  logLevel: 'warning',
  tsconfigRaw: { compilerOptions: { useDefineForClassFields: false } },
  alias: { '@nettle-patch/core': path('packages/core/src/index.ts') },
};

/** @returns the recorder as a module, for pages that do not come through the proxy */
export async function buildRecorderModule() {
  const entryPoints = [path('packages/recorder/src/module.ts')];
  const { outputFiles } = await build({ ...HOW, entryPoints, format: 'esm' });
  return { name: 'module.js', text: outputFiles[0].text };
}

/** @returns the files, each with its name and its text: as small as can be, as every page loads them */
export async function buildRecorder() {
  const { outputFiles } = await build({
    ...HOW,
    entryPoints: [
      path('packages/recorder/src/recorder.ts'),
      path('packages/recorder/src/sender.ts'),
      path('packages/recorder/src/worker.ts'),
      path('packages/recorder/src/holder.ts'),
      path('packages/recorder/src/blink.ts'),
      path('packages/recorder/src/frame.ts'),
      path('packages/recorder/src/listeners.ts'),
      path('packages/recorder/src/steps.ts'),
      path('packages/recorder/src/sign.ts'),
      path('packages/recorder/src/fine.ts'),
      path('packages/recorder/src/rewritten.ts'),
      path('packages/recorder/src/tag.ts'),
      path('packages/recorder/src/tag-others.ts'),
    ],
    outdir: 'dist',
    format: 'iife',
  });
  return Promise.all(
    outputFiles.map(async ({ path: file, text }) => {
      const { code } = await minify(text, {
        ecma: 2022,
        module: true,
        compress: {
          passes: 4,
          conditionals: false,
          hoist_funs: false,
          unsafe: true,
          unsafe_comps: true,
          unsafe_arrows: true,
          unsafe_methods: true,
          keep_fargs: false,
        },
      });
      return { name: file.split('/').pop(), text: strict(code) };
    }),
  );
}
