import { spawn } from 'node:child_process';

/** The program that opens an address as a click on it would; undefined where there is no screen to show it on. */
function opener(): readonly [string, ...string[]] | undefined {
  if (process.platform === 'darwin') return ['open'];
  if (process.platform === 'win32') return ['rundll32', 'url.dll,FileProtocolHandler'];
  const hasScreen = ['DISPLAY', 'WAYLAND_DISPLAY'].some((name) => (process.env[name] ?? '') !== '');
  return hasScreen ? ['xdg-open'] : undefined;
}

/** Opens an address in the browser of whoever sits here, where there is one. Nothing depends on it. */
export function openInBrowser(address: string): void {
  const program = opener();
  if (program === undefined) return;
  const [command, ...args] = program;
  spawn(command, [...args, address], { stdio: 'ignore', detached: true })
    .once('error', () => undefined)
    .unref();
}
