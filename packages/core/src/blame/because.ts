import { actionDeed } from '../inputs/action';
import type { Recording } from '../recording/recording';
import { displayName } from '../recording/functions';
import type { Anatomy, Phase, PhaseName } from './anatomy';
import type { Culprit } from './culprits';

/** A piece of the sentence: plain words, a figure, or a name that leads somewhere. */
export type BecausePart =
  | { readonly type: 'text'; readonly text: string }
  | { readonly type: 'figure'; readonly text: string; readonly over?: boolean }
  | { readonly type: 'function'; readonly text: string; readonly functionId: number }
  | { readonly type: 'phase'; readonly text: string; readonly phase: PhaseName };

/** Below this, a part of the delay is not worth a clause. */
const WORTH_SAYING_MS = 8;
const WORTH_SAYING_SHARE = 0.05;

const text = (words: string): BecausePart => ({ type: 'text', text: words });
const ms = (value: number, over = false): BecausePart => ({
  type: 'figure',
  text: `${Math.round(value)} ms`,
  over,
});
const phaseLink = (phase: PhaseName, words: string): BecausePart => ({ type: 'phase', phase, text: words });

const NUMBER_WORDS = [
  '',
  '',
  'twice',
  'three times',
  'four times',
  'five times',
  'six times',
  'seven times',
  'eight times',
  'nine times',
];

/** "three times the budget", "just over the budget", as a colleague would put a ratio. */
export function timesBudget(feltMs: number, budgetMs: number): string {
  const ratio = feltMs / budgetMs;
  const budget = `the budget of ${Math.round(budgetMs)} ms`;
  if (ratio < 1.2) return `just over ${budget}`;
  if (ratio < 1.75) return `over ${budget}`;
  const whole = Math.round(ratio);
  const nearly = whole - ratio > 0.15 ? 'nearly ' : ratio - whole > 0.15 ? 'more than ' : '';
  return `${nearly}${NUMBER_WORDS[whole] ?? `${whole} times`} ${budget}`;
}

/** How sure it is that a share of the time was a function's. */
function knownAs({ exactMs, inferredMs, savedMs }: Culprit): string {
  if (exactMs > savedMs * 0.9) return '';
  return inferredMs > savedMs / 2 ? 'probably about ' : 'by samples about ';
}

/** Writes the sentence for one anatomy. */
class Sentence {
  readonly parts: BecausePart[] = [];

  constructor(
    private readonly recording: Recording,
    private readonly anatomy: Anatomy,
  ) {}

  add(...parts: BecausePart[]): this {
    this.parts.push(...parts);
    return this;
  }

  worthSaying(valueMs: number): boolean {
    return valueMs >= Math.max(WORTH_SAYING_MS, this.anatomy.sting.feltMs * WORTH_SAYING_SHARE);
  }

  named(culprit: Culprit): BecausePart {
    const recorded = this.recording.functions.get(culprit.functionId);
    return { type: 'function', text: displayName(recorded), functionId: culprit.functionId };
  }

  opening(): this {
    const { sting } = this.anatomy;
    const ratio = text(`, ${timesBudget(sting.feltMs, sting.budgetMs)}.`);
    if (sting.interaction === undefined) {
      const verb = sting.kind === 'hang' ? 'hung' : 'was taken';
      return this.add(text(`The main thread ${verb} for `), ms(sting.feltMs, true), ratio);
    }
    const deed = actionDeed(sting.interaction.action, sting.interaction.target);
    return this.add(text(`The screen answered ${deed} after `), ms(sting.feltMs, true), ratio);
  }

  waiting(phase: Phase): this {
    const lengthMs = phase.endMs - phase.startMs;
    if (!this.worthSaying(lengthMs)) return this;
    this.add(text(' It '), phaseLink('waiting', 'waited'), text(' '), ms(lengthMs));
    const [first] = phase.culprits;
    if (first !== undefined && first.totalMs > lengthMs / 4) this.add(text(' behind '), this.named(first));
    return this.add(text('.'));
  }

  handling(phase: Phase): this {
    const lengthMs = phase.endMs - phase.startMs;
    if (!this.worthSaying(lengthMs)) return this;
    const outer = this.#outermost(phase);
    const [worst] = phase.culprits;
    if (outer === undefined || worst === undefined) {
      return this.add(
        text(' '),
        phaseLink('handling', 'Handling'),
        text(' took '),
        ms(lengthMs),
        text(', in code that was not seen.'),
      );
    }
    this.add(text(' Then '), this.named(outer), text(' ran for '), ms(outer.totalMs));
    const share = Math.round((worst.savedMs / lengthMs) * 100);
    if (worst.functionId !== outer.functionId) {
      this.add(text(`: ${knownAs(worst)}${share} % of it in `), this.named(worst));
      if (worst.count > 1) this.add(text(`, called ${worst.count.toLocaleString('en')} times`));
    } else if (share >= 50) {
      this.add(text(`, about ${share} % of it in its own code`));
    }
    return this.#forced().add(text('.'));
  }

  #forced(): this {
    const { forcedMs, forced } = this.anatomy;
    if (!this.worthSaying(forcedMs)) return this;
    this.add(text(', and '), ms(forcedMs), text(' in '));
    const [worst] = forced;
    if (worst === undefined) return this.add(text('layout forced from script'));
    const times = forced.reduce((sum, { count }) => sum + count, 0);
    this.add(text(times === 1 ? 'layout forced once' : `layout forced ${times.toLocaleString('en')} times`));
    if (worst.function === undefined) return this.add(text(' from script'));
    const name = displayName(this.recording.functions.get(worst.function));
    return this.add(text(' by '), { type: 'function', text: name, functionId: worst.function });
  }

  drawing(phase: Phase): this {
    const lengthMs = phase.endMs - phase.startMs;
    if (!this.worthSaying(lengthMs)) return this;
    return this.add(text(' '), phaseLink('drawing', 'Drawing'), text(' took '), ms(lengthMs), text('.'));
  }

  unexplained(): this {
    const { unexplainedMs } = this.anatomy.blame;
    if (this.worthSaying(this.anatomy.unseenMs)) {
      this.add(
        text(' For '),
        ms(this.anatomy.unseenMs),
        text(' of script the engine gave no stack; the function seen around it is named for it.'),
      );
    }
    if (!this.worthSaying(unexplainedMs)) return this;
    return this.add(text(' Of all this, '), ms(unexplainedMs), text(' are unexplained.'));
  }

  /** The function that was on the stack longest, and the outermost of those that were equally long. */
  #outermost(phase: Phase): Culprit | undefined {
    const [block] = this.anatomy.blocks
      .filter(
        (candidate) =>
          candidate.depth === 0 && candidate.endMs > phase.startMs && candidate.startMs < phase.endMs,
      )
      .sort((a, b) => b.endMs - b.startMs - (a.endMs - a.startMs));
    if (block === undefined) return undefined;
    const totalMs = Math.min(block.endMs, phase.endMs) - Math.max(block.startMs, phase.startMs);
    return {
      functionId: block.functionId,
      totalMs,
      selfMs: 0,
      broughtMs: 0,
      forcedMs: 0,
      inferredMs: 0,
      exactMs: 0,
      count: 0,
      savedMs: 0,
    };
  }
}

/** The sentence that explains a sting, in parts, so that each name in it can lead to its place. */
export function becauseOf(recording: Recording, anatomy: Anatomy): BecausePart[] {
  const sentence = new Sentence(recording, anatomy).opening();
  for (const phase of anatomy.phases) sentence[phase.name](phase);
  return sentence.unexplained().parts;
}

/** The same as plain text. */
export function becauseText(parts: readonly BecausePart[]): string {
  return parts.map((part) => part.text).join('');
}
