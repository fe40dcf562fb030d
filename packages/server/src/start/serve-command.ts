import { Option, type Command } from 'commander';
import { CAPTURE_MODES, type CaptureMode, type ProxySettings } from '@nettle-patch/core';
import { portNumber } from '../commands/whole-number';
import { BadAddressError, targetOriginOf } from '../apps/target-origin';
import { scriptedParts } from '../scripted-parts';
import { serve, type Running } from '../serve';
import { chooseApp } from './choose-app';
import { readConfig, settingsFrom } from './config';
import { openInBrowser } from './open-browser';

const DEFAULT_PORT = 4780;

interface ServeFlags {
  readonly target?: string;
  readonly port?: number;
  readonly proxyPort?: number;
  readonly mode?: CaptureMode;
  readonly exact?: boolean;
  readonly isolate?: boolean;
  readonly leaveOut?: string[];
  readonly labels?: ProxySettings['labels'];
  readonly closer?: string;
  readonly lan?: string | true;
  readonly open: boolean;
}

function tell(running: Running, target: string | undefined): void {
  for (const { what, from, to } of running.moved) {
    console.log(
      `Port ${from} is in use, so ${what} took ${to}. Recordings kept under another port are shown only there.`,
    );
  }
  if (running.earlier !== undefined) {
    console.log(
      `${running.proxyOrigin} was ${running.earlier} before: what that app keeps in browsers (service workers, storage) is still there. Without --proxy-port each app has a port of its own.`,
    );
  }
  if (target === undefined) {
    console.log('\nNo app is chosen yet: the Record view offers those that answer on this computer.\n');
    console.log(`  Open this:         ${running.address}\n`);
  } else {
    console.log(`\nNettle Patch stands in front of ${target}\n`);
    console.log(`  Open this:         ${running.address}`);
    console.log(`  The app, recorded: ${running.proxyOrigin}/\n`);
  }
  const lan = running.lan.state;
  if (lan.open) {
    console.log(`  A phone in the room: ${lan.joinUrl}`);
    console.log(
      '  Its code holds for one device and five minutes; the Record view shows new ones, to be scanned.\n',
    );
  }
  console.log('Stop with Ctrl+C.');
}

/**
 * An address as it may be typed.
 * @throws BadAddressError for a word that is none, such as a command that is misspelt
 */
function addressFrom(text: string): string {
  if (/^[a-z-]+$/i.test(text) && text !== 'localhost') {
    throw new BadAddressError(
      `"${text}" is neither a command nor an address. "nettle-patch --help" lists the commands; an address is something like http://localhost:3000.`,
    );
  }
  return targetOriginOf(text);
}

async function runServe(address: string | undefined, flags: ServeFlags): Promise<void> {
  const config = await readConfig();
  const given = address ?? flags.target ?? config.target;
  const target = given === undefined ? await chooseApp() : addressFrom(given);
  const port = flags.port ?? config.port ?? DEFAULT_PORT;
  const proxyPort = flags.proxyPort ?? config.proxyPort;
  const running = await serve({
    port,
    ...(proxyPort === undefined ? {} : { proxyPort }),
    ...(target === undefined ? {} : { target }),
    parts: scriptedParts,
    settings: settingsFrom({ ...flags, mode: flags.exact ? 'exact' : flags.mode }, config),
    ...(flags.lan === undefined ? {} : { lan: flags.lan }),
  });
  tell(running, target);
  if (flags.open && (config.open ?? true)) openInBrowser(running.address);
  for (const signal of ['SIGINT', 'SIGTERM'] as const) {
    process.once(signal, () => {
      running.close();
      process.exit(0);
    });
  }
}

/** Adds `nettle-patch [address]`, which is also called `nettle-patch serve`. */
export function addServeCommand(program: Command): void {
  program
    .command('serve', { isDefault: true })
    .description('put Nettle Patch in front of a running app, and open it')
    .argument('[address]', 'address of the app (default: what answers on this computer)')
    .option('--target <address>', 'the same')
    .option('--port <number>', `port of the tool (default: ${DEFAULT_PORT})`, portNumber)
    .option(
      '--proxy-port <number>',
      'port the app is opened at (default: the one it had last, or the next that is no other app’s)',
      portNumber,
    )
    .option(
      '--lan [address]',
      'let devices of the room join by a code, at an address of this computer (default: the likeliest)',
    )
    .addOption(
      new Option(
        '--mode <mode>',
        'how closely to look: what the engine tells, a millisecond and a line, or every call (default: everyday)',
      ).choices(CAPTURE_MODES),
    )
    .option(
      '--closer <place>',
      'in fine mode, record the calls of one function and all that they call exactly: "src/desk/trim.ts:29"',
    )
    .option('--exact', 'the same as --mode exact')
    .option(
      '--leave-out <text...>',
      'in fine and exact mode, leave scripts alone whose address holds one of these',
    )
    .addOption(
      new Option(
        '--labels <by>',
        'name controls by their ids, or by their visible texts (default: ids)',
      ).choices(['ids', 'texts']),
    )
    .option(
      '--isolate',
      'isolate pages, so that a hang can be looked into; what comes from other origins may not load then',
    )
    .option('--no-open', 'do not open the tool in the browser')
    .action(runServe);
}
