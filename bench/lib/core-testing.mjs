import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

/** What the tests of the core share, built for here. @param modules files of packages/core/src/testing, without ".ts" */
export async function coreTesting(modules) {
  const { outputFiles } = await build({
    stdin: {
      contents: modules.map((name) => `export * from './${name}';`).join('\n'),
      resolveDir: fileURLToPath(new URL('../../packages/core/src/testing', import.meta.url)),
      loader: 'ts',
    },
    bundle: true,
    platform: 'node',
    format: 'esm',
    write: false,
  });
  const code = Buffer.from(outputFiles[0].contents).toString('base64');
  return import(`data:text/javascript;base64,${code}`);
}
