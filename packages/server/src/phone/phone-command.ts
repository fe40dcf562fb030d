import { InvalidArgumentError, Option, type Command } from 'commander';
import { PHONE_FAULT_NAMES, isPhoneFault, type PhoneFault } from '@nettle-patch/core';
import { phoneSchema, startPhone } from './phones';

interface PhoneFlags {
  readonly join: string;
  readonly code?: string;
  readonly hz: string;
  readonly seed: string;
  readonly mended: readonly PhoneFault[];
}

function faultsIn(text: string, before: readonly PhoneFault[]): PhoneFault[] {
  const faults = text === 'all' ? PHONE_FAULT_NAMES : text.split(',');
  const unknown = faults.find((fault) => !isPhoneFault(fault));
  if (unknown === undefined) return [...before, ...faults.filter(isPhoneFault)];
  throw new InvalidArgumentError(
    `There is no fault "${unknown}". There are: ${PHONE_FAULT_NAMES.join(', ')}, all.`,
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
    .option('--code <code>', 'code by which a device of the room is let in, as the Record view shows it')
    .addOption(
      new Option('--hz <number>', 'pictures a second its display asks for')
        .choices(['60', '120'])
        .default('60'),
    )
    .option('--seed <number>', 'what happens on it depends on this', '7')
    .option('--mended <fault>', `without this fault: ${PHONE_FAULT_NAMES.join(', ')}, all`, faultsIn, [])
    .action(({ join, code, hz, seed, mended }: PhoneFlags) => {
      const settings = phoneSchema.validateSync({ hz: Number(hz), seed: Number(seed), mended: [...mended] });
      const phone = startPhone(join, settings, 'inherit', code);
      for (const signal of ['SIGINT', 'SIGTERM'] as const) process.once(signal, () => phone.kill());
      phone.on('exit', (code) => (process.exitCode = code ?? 0));
    });
}
