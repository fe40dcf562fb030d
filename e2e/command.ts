import { execFile } from 'node:child_process';

/** How a command ended. */
export interface Ended {
  readonly code: number;
  readonly out: string;
  readonly said: string;
}

/**
 * Runs a command of the tool, while servers of this process go on answering.
 * @param told gets what the command says while it runs
 */
export function command(
  args: readonly string[],
  told: (said: string) => void = () => undefined,
): Promise<Ended> {
  return new Promise((resolve) => {
    const running = execFile(
      process.execPath,
      ['packages/server/bin/nettle-patch.js', ...args],
      (error, out, said) => resolve({ code: Number(error?.code ?? 0), out, said }),
    );
    running.stderr!.on('data', (said) => told(String(said)));
  });
}
