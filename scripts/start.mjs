/** `npm start`: installs, builds, starts the boarding desk and Nettle Patch in front of it. */
import { spawn } from 'node:child_process';
import { prepare, root } from './lib/prepare.mjs';

prepare();

/** Starts one of the project's programs and waits for a line of its output that matches. */
function start(args, pattern) {
  const child = spawn(process.execPath, args, { cwd: root, stdio: ['ignore', 'pipe', 'inherit'] });
  return new Promise((resolve, reject) => {
    let text = '';
    child.stdout.on('data', (piece) => {
      text += piece;
      const found = pattern.exec(text);
      if (found) resolve({ child, found, text });
    });
    child.once('exit', (code) => reject(new Error(`${args[0]} ended with code ${code} before it was ready`)));
  });
}

const desk = await start(['packages/demo/dist/main.js', '4790'], /http:\/\/\S+/);
const tool = await start(
  ['packages/server/bin/nettle-patch.js', 'serve', '--no-open', '--target', desk.found[0].replace(/\/$/, '')],
  /Open this:\s+(\S+)\s+The app, recorded:\s+(\S+)/,
);
for (const line of (desk.text + tool.text).split('\n')) if (line.startsWith('Port ')) console.log(line);
console.log(`
Nettle Patch is ready. Open this address:

  ${tool.found[1]}

It shows the tool with a demo recording, and a button that opens the boarding desk of Skerry Line to be recorded.
Stop with Ctrl+C.
`);

let stopping = false;
function stop(code) {
  if (stopping) return;
  stopping = true;
  desk.child.kill();
  tool.child.kill();
  process.exitCode = code;
}
for (const { child } of [desk, tool]) child.once('exit', () => stop(1));
for (const signal of ['SIGINT', 'SIGTERM']) process.once(signal, () => stop(0));
