import { InvalidArgumentError, Option, type Command } from 'commander';
import { PHONE_FAULTS, phoneSchema, startPhone } from './phones';

interface PhoneFlags {
  readonly join: string;
  readonly hz: string;
  readonly seed: string;
  readonly mended: readonly string[];
}

function faultsIn(text: string, before: readonly string[]): string[] {
  const faults = text === 'all' ? [...PHONE_FAULTS] : text.split(',');
  const unknown = faults.find((fault) => !(PHONE_FAULTS as readonly string[]).includes(fault));
  if (unknown === undefined) return [...before, ...faults];
  throw new InvalidArgumentError(
    `There is no fault "${unknown}". There are: ${PHONE_FAULTS.join(', ')}, all.`,
  );
}

/** `nettle-patch phone`: the deckhand's phone, which stands in for a native app. */
export function addPhoneCommand(program: Command): void {
  program
    .command('phone')
    .description('start a simulated phone that joins a running Nettle Patch as a native app would')
    .option(
      '--join <address>',
      'address the app is recorded at, as "serve" prints it',
      'http://localhost:4781',
    )
    .addOption(
      new Option('--hz <number>', 'pictures a second its display asks for')
        .choices(['60', '120'])
        .default('60'),
    )
    .option('--seed <number>', 'what happens on it depends on this', '7')
    .option('--mended <fault>', `without this fault: ${PHONE_FAULTS.join(', ')}, all`, faultsIn, [])
    .action(({ join, hz, seed, mended }: PhoneFlags) => {
      const settings = phoneSchema.validateSync({ hz: Number(hz), seed: Number(seed), mended: [...mended] });
      const phone = startPhone(join, settings, 'inherit');
      for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => phone.kill());
      phone.on('exit', (code) => (process.exitCode = code ?? 0));
    });
}
