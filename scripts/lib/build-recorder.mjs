/** Builds the recorder: what is put into pages, what sends from a worker of its own, and what is put into workers. */
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { minify } from 'terser';

const path = (relative) => fileURLToPath(new URL(`../../${relative}`, import.meta.url));

/**
 * Names of properties that no row, message or file has, which may be shortened: those of the marks in rewritten scripts,
 * and some that the recorder keeps to itself.
 */
const OWN_PROPERTIES =
  /^(waiting|statement|bareYield|await|handler|loop|body|wait|expression)\w*(Open|Close)$|^(pausedAtMs|costFromMs|tellWorkers|isIncomparable|inARow|bothMs|apart|functionAtOffset|functionLike|functionAt|placeAt|enterAt|leaveAt|onOutermost|latestCallback|endResumed|currentId|takeRows|takeCost|ranItself|onRendered|getters|setters|methods|forces|originMs|charged|emit|collect|mutations|timesMs|firstId)$/;

/** @returns the files, each with its name and its text: as small as can be, as every page loads them */
export async function buildRecorder() {
  const { outputFiles } = await build({
    entryPoints: [
      path('packages/recorder/src/recorder.ts'),
      path('packages/recorder/src/sender.ts'),
      path('packages/recorder/src/worker.ts'),
      path('packages/recorder/src/steps.ts'),
      path('packages/recorder/src/sign.ts'),
    ],
    outdir: 'dist',
    bundle: true,
    minify: true,
    mangleProps: OWN_PROPERTIES,
    format: 'iife',
    target: 'es2022',
    write: false,
    logLevel: 'warning',
    tsconfigRaw: { compilerOptions: { useDefineForClassFields: false } },
    alias: { '@nettle-patch/core': path('packages/core/src/index.ts') },
  });
  return Promise.all(
    outputFiles.map(async ({ path: file, text }) => {
      const { code } = await minify(text, {
        ecma: 2022,
        module: true,
        compress: { passes: 4, unsafe_arrows: true, unsafe_methods: true, keep_fargs: false },
      });
      return { name: file.split('/').pop(), text: code };
    }),
  );
}
