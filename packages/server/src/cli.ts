import { VERSION } from '@nettle-patch/core';
import { Command } from 'commander';
import { addReadingCommands } from './commands/add-commands';
import { FileError } from './commands/read-recording';
import { addRecordCommand } from './drive/record-command';
import { addVersusCommand } from './drive/versus-command';
import { NoLanError } from './lan/lan';
import { addPhoneCommand } from './phone/phone-command';
import { BadAddressError } from './apps/target-origin';
import { addTrialCommand } from './trials/trial-command';
import { addServeCommand } from './start/serve-command';
import { addVerifyCommand } from './verify/verify-command';

/** Whoever reads the output may have seen enough, as `head` has. */
for (const stream of [process.stdout, process.stderr]) {
  stream.on('error', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EPIPE') throw error;
    process.exit();
  });
}

const program = new Command('nettle-patch')
  .description('Find out why an input had to wait.')
  .version(VERSION)
  .addHelpText(
    'after',
    `
nettle-patch http://localhost:3000   records the app at that address
nettle-patch                         records the app that answers here, or that nettle-patch.config.json names`,
  );

addServeCommand(program);
addRecordCommand(program);
addVersusCommand(program);
addTrialCommand(program);
addReadingCommands(program);
addVerifyCommand(program);
addPhoneCommand(program);

try {
  await program.parseAsync();
} catch (error) {
  if (![BadAddressError, NoLanError, FileError].some((known) => error instanceof known)) throw error;
  console.error((error as Error).message);
  process.exitCode = 2;
}
