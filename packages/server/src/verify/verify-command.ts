import { RecordingVerifier, type Finding, countedText } from '@nettle-patch/core';
import type { Command } from 'commander';
import { Output } from '../commands/output';
import { FileError, isOfDisk, piecesOf, unreadable } from '../commands/read-recording';
import { portNumber, wholeNumber } from '../commands/whole-number';
import { EmitterCheck } from './emitter-check';

/** How the command ends, for scripts that call it. */
export const EXIT = { good: 0, faulty: 1, unusable: 2 } as const;

const USUAL_PORT = 4781;
const USUAL_SECONDS = 10;
const MAX_SECONDS = 24 * 3600;

interface VerifyFlags {
  readonly listen?: boolean;
  readonly port: number;
  readonly seconds: number;
}

/** Writes findings as they come, and how many there were. */
class Findings {
  readonly #output = new Output(process.stdout);
  faults = 0;
  remarks = 0;

  constructor(private readonly what: string) {}

  readonly tell = ({ isFault, line, text }: Finding): void => {
    if (isFault) this.faults++;
    else this.remarks++;
    const place = line === undefined ? '' : `line ${line}: `;
    const said = `${isFault ? 'fault ' : 'remark'}  ${place}${text}`;
    this.#output.line(isFault ? this.#output.style('red', said) : said);
  };

  end(lines: number): void {
    this.#output.line(
      `${this.what}: ${countedText(lines, 'line')}, ${countedText(this.faults, 'fault')}, ${countedText(this.remarks, 'remark')}.`,
    );
    process.exitCode = this.faults > 0 ? EXIT.faulty : EXIT.good;
  }
}

/** @throws FileError */
async function verifyFile(path: string): Promise<void> {
  const findings = new Findings(path);
  const verifier = new RecordingVerifier(findings.tell);
  try {
    for await (const piece of piecesOf(path)) verifier.push(piece);
  } catch (error) {
    if (isOfDisk(error)) throw unreadable(path, error);
    const { message } = error as Error;
    findings.tell({
      isFault: true,
      line: verifier.lineCount + 1,
      text: `the archive is damaged (${message})`,
    });
  }
  verifier.finish();
  findings.end(verifier.lineCount);
}

async function verifyEmitter({ port, seconds }: VerifyFlags): Promise<void> {
  const findings = new Findings('The emitter');
  const check = new EmitterCheck(findings.tell);
  const origin = await check.listen(port);
  console.error(
    `Waiting for an emitter at ${origin}. It is recorded for ${seconds} s once it has said hello; Ctrl+C ends it sooner.`,
  );
  const sooner = () => check.stop();
  process.once('SIGINT', sooner);
  await check.record(seconds * 1000);
  process.off('SIGINT', sooner);
  findings.end(check.lineCount);
  check.close();
}

/** Adds `nettle-patch verify`. */
export function addVerifyCommand(program: Command): void {
  program
    .command('verify')
    .description('say line by line what breaks the format of recordings, or the protocol of emitters')
    .argument('[file]', 'recording')
    .option('--listen', 'wait for an emitter, record it, and say what it does wrong')
    .option('--port <number>', 'port to listen at', portNumber, USUAL_PORT)
    .option('--seconds <number>', 'how long it is recorded', wholeNumber(MAX_SECONDS), USUAL_SECONDS)
    .addHelpText(
      'after',
      `
Exit codes: ${EXIT.good} nothing is wrong; ${EXIT.faulty} something is; ${EXIT.unusable} a file or an argument cannot be used.`,
    )
    .action(async (file: string | undefined, flags: VerifyFlags) => {
      if (flags.listen) await verifyEmitter(flags);
      else if (file !== undefined) await verifyFile(file);
      else throw new FileError('Name the file of a recording, or wait for an emitter with --listen.');
    });
}
