import { Command, InvalidArgumentError } from 'commander';
import { addReadingCommands } from './commands/add-commands';
import { addRecordCommand } from './drive/record-command';
import { addPhoneCommand } from './phone/phone-command';
import { NoLanError } from './lan/lan';
import { BadAddressError, serve } from './serve';
import type { ProxySettings } from '@nettle-patch/core';

const DEFAULT_PORT = 4780;

function parsePort(text: string): number {
  const port = Number(text);
  if (!Number.isInteger(port) || port < 0 || port > 65_535) {
    throw new InvalidArgumentError('Expected a whole number from 0 to 65535.');
  }
  return port;
}

interface ServeFlags {
  target: string;
  port: number;
  proxyPort?: number;
  exact?: boolean;
  isolate?: boolean;
  leaveOut?: string[];
  lan?: string | true;
}

function settingsFrom({ exact, isolate, leaveOut }: ServeFlags): Partial<ProxySettings> {
  return { mode: exact ? 'exact' : 'everyday', isolate: isolate ?? false, leaveOut: leaveOut ?? [] };
}

async function runServe(flags: ServeFlags): Promise<void> {
  const running = await serve({
    target: flags.target,
    port: flags.port,
    proxyPort: flags.proxyPort ?? (flags.port === 0 ? 0 : flags.port + 1),
    settings: settingsFrom(flags),
    ...(flags.lan === undefined ? {} : { lan: flags.lan }),
  });
  for (const { what, from, to } of running.moved) {
    console.log(
      `Port ${from} is in use, so ${what} took ${to}. Recordings kept under another port are shown only there.`,
    );
  }
  console.log(`\nNettle Patch stands in front of ${flags.target}\n`);
  console.log(`  Open this:        ${running.address}`);
  console.log(`  The app, recorded: ${running.proxyOrigin}/\n`);
  const lan = running.lan.state;
  if (lan.open) {
    console.log(`  A phone in the room: ${lan.joinUrl}`);
    console.log(
      '  Its code holds for one device and five minutes; the Record view shows new ones, to be scanned.\n',
    );
  }
  console.log('Stop with Ctrl+C.');
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.once(signal, () => {
      running.close();
      process.exit(0);
    });
  }
}

const program = new Command('nettle-patch')
  .description('Find out why an input had to wait.')
  .version('0.1.0');

program
  .command('serve')
  .description('put Nettle Patch in front of a running app')
  .requiredOption('--target <address>', 'address of the app, such as http://localhost:3000')
  .option('--port <number>', 'port of the tool', parsePort, DEFAULT_PORT)
  .option('--proxy-port <number>', 'port the app is opened at (default: the one after --port)', parsePort)
  .option(
    '--lan [address]',
    'let devices of the room join by a code, at an address of this computer (default: the likeliest)',
  )
  .option('--exact', 'rewrite scripts on their way, so that every call is recorded')
  .option('--leave-out <text...>', 'in exact mode, leave scripts alone whose address holds one of these')
  .option(
    '--isolate',
    'isolate pages, so that a hang can be looked into; what comes from other origins may not load then',
  )
  .action(runServe);

addRecordCommand(program);
addReadingCommands(program);
addPhoneCommand(program);

try {
  await program.parseAsync();
} catch (error) {
  if (!(error instanceof BadAddressError || error instanceof NoLanError)) throw error;
  console.error(error.message);
  process.exitCode = 2;
}
