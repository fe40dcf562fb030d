import { actionDeed } from '../inputs/action';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { handlersIn } from '../stings/entry-label';
import type { Anatomy, Phase } from './anatomy';
import { forcedClause, knownAs, unexplainedClause, worthSaying } from './because-culprits';
import { becauseOfDetail } from './because-going-on';
import { askedWords, scheduleOf } from './cause-chain';
import type { Culprit } from './culprits';
import { functionPart, ms, phaseLink, text, timesBudget, type BecausePart } from './sentence';

/** ", which a timer of 4000 ms had started": what set going that which stood in the way longest, where it is known. */
function startedBy(recording: Recording, phase: Phase): string {
  const handlers = handlersIn(recording, MAIN_THREAD, phase).filter(({ schedule }) => schedule !== undefined);
  const [longest] = [...handlers].sort((a, b) => b.durationMs - a.durationMs);
  const asked = longest && scheduleOf(recording, longest);
  return asked === undefined ? '' : `, which ${askedWords(asked)} had started`;
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
    return worthSaying(valueMs, this.anatomy.sting.feltMs);
  }

  named(culprit: Culprit): BecausePart {
    return functionPart(this.recording, culprit.functionId);
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
    if (first !== undefined && first.totalMs > lengthMs / 4) {
      this.add(text(' behind '), this.named(first), text(startedBy(this.recording, phase)));
    }
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
    if (!this.worthSaying(outer.totalMs)) {
      this.add(text(' '), phaseLink('handling', 'Handling'), text(' took '), ms(lengthMs));
      return this.add(...forcedClause(this.recording, this.anatomy), text('.'));
    }
    this.add(text(' Then '), this.named(outer), text(' ran for '), ms(outer.totalMs));
    const share = Math.round((worst.savedMs / lengthMs) * 100);
    if (worst.functionId !== outer.functionId) {
      this.add(text(`: ${knownAs(worst)}${share} % of it in `), this.named(worst));
      if (worst.count > 1) this.add(text(`, called ${worst.count.toLocaleString('en')} times`));
    } else if (share >= 50) {
      this.add(text(`, about ${share} % of it in its own code`));
    }
    return this.add(...forcedClause(this.recording, this.anatomy), text('.'));
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
    return this.add(...unexplainedClause(unexplainedMs, this.anatomy.sting.feltMs));
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
  const { detail } = anatomy.sting;
  if (detail !== undefined) return becauseOfDetail(recording, anatomy, detail);
  const sentence = new Sentence(recording, anatomy).opening();
  for (const phase of anatomy.phases) sentence[phase.name](phase);
  return sentence.unexplained().parts;
}
