import { captureModeOf, isOfPage } from '../format/header';
import { actionDeed } from '../inputs/action';
import { delayStepMs } from '../inputs/delay-step';
import { MAIN_THREAD, type Recording } from '../recording/recording';
import { frameElsewhere } from '../stings/frame-elsewhere';
import { handlersIn } from '../inputs/links';
import { PHASES, type Anatomy, type Phase } from './anatomy';
import {
  NEARLY_ALL,
  forcedClause,
  hotLineClause,
  knownAs,
  unexplainedClause,
  unseenClause,
  worthSaying,
} from './because-culprits';
import { scheduleOf } from '../inputs/links';
import { askedWords } from './cause-chain';
import { firstOwn, type Culprit } from './culprits';
import type { LibraryWork, UnseenEntry } from './phase-script';
import {
  calledClause,
  functionPart,
  isTold,
  ms,
  percent,
  phaseLink,
  text,
  timesBudget,
  type BecausePart,
} from './sentence';
import { countText } from '../words/figures';

/** ", which a timer of 4000 ms had started": what set going that which stood in the way longest, where it is known. */
function startedBy(recording: Recording, phase: Phase): string {
  const handlers = handlersIn(recording, MAIN_THREAD, phase).filter(({ schedule }) => schedule !== undefined);
  const [longest] = [...handlers].sort((a, b) => b.durationMs - a.durationMs);
  const asked = longest && scheduleOf(recording, longest);
  return asked === undefined ? '' : `, which ${askedWords(asked)} had started`;
}

/** " react-dom ran for 2,024 ms with no own function on the stack, …": what a library did, and who asked for it. */
export function libraryClause(recording: Recording, library: LibraryWork): BecausePart[] {
  const { name, lengthMs, nodes, target, askedBy } = library;
  const where = target === undefined ? '' : ` in ${target}`;
  const asking = askedBy === undefined ? undefined : functionPart(recording, askedBy);
  const busy = nodes > 1 ? `, placing and removing ${countText(nodes)} nodes${where}` : '';
  return [
    text(`${name} ran for `),
    ms(lengthMs),
    text(` with no own function on the stack${busy}`),
    ...(asking !== undefined && isTold(asking)
      ? [text('; '), asking, text(' was the last own function to run before it')]
      : []),
    text('.'),
  ];
}

/** What a library did beside own code is said from this share of the time on. */
const BESIDES_SHARE = 0.2;

/** Writes the sentence for one anatomy. */
class Sentence {
  readonly parts: BecausePart[] = [];
  /** Whether something was said to have come before. */
  #cameBefore = false;
  /** What would show what was said not to have been seen. */
  #leftUnseen: string | undefined;

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

  named(functionId: number): BecausePart {
    return functionPart(this.recording, functionId);
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
    this.#cameBefore = true;
    this.add(text(' It '), phaseLink('waiting', 'waited'), text(' '), ms(lengthMs));
    const { lead, library } = phase.script;
    const [first] = phase.culprits;
    if (library !== undefined && library.lengthMs > lengthMs / 4) this.add(text(` behind ${library.name}`));
    else {
      const named = lead ?? first;
      if (named !== undefined && named.totalMs > lengthMs / 4) {
        this.add(text(' behind '), this.named(named.functionId), text(startedBy(this.recording, phase)));
      }
    }
    return this.add(text('.'));
  }

  handling(phase: Phase): this {
    const lengthMs = phase.endMs - phase.startMs;
    if (!this.worthSaying(lengthMs)) return this;
    const { lead, library, beside, entered, leadForcedMs, lengthMs: scriptMs } = phase.script;
    const isLibrary = library !== undefined && this.worthSaying(library.lengthMs);
    const isOwn = lead !== undefined && this.worthSaying(lead.totalMs);
    const forced = forcedClause(this.recording, this.anatomy);
    if (isLibrary) {
      this.add(text(this.#then()), ...libraryClause(this.recording, library));
      if (isOwn) this.add(text(' Of own code, '), ...this.#ran(phase, lead), text('.'));
      return this.#forcedApart();
    }
    if (isOwn) {
      this.add(text(this.#then()), ...this.#ran(phase, lead));
      const forcedIt = lead.entryMs === 0 && leadForcedMs >= this.anatomy.forcedMs * NEARLY_ALL;
      this.add(...(forcedIt ? forced : []), text('.'));
      if (
        beside !== undefined &&
        this.worthSaying(beside.lengthMs) &&
        beside.lengthMs >= lengthMs * BESIDES_SHARE
      )
        this.add(text(' Besides, '), ...libraryClause(this.recording, { ...beside, askedBy: undefined }));
      return forcedIt ? this : this.#forcedApart();
    }
    if (entered !== undefined && this.worthSaying(entered.lengthMs)) {
      return this.add(text(this.#then()), ...this.#entered(entered)).#forcedApart();
    }
    this.add(text(' '), phaseLink('handling', 'Handling'), text(' took '), ms(lengthMs));
    const [first] = phase.culprits;
    if (first !== undefined && this.worthSaying(first.totalMs)) {
      return this.add(text(', most of it in '), this.named(first.functionId), ...forced, text('.'));
    }
    if (forced.length > 0) return this.add(...forced, text('.'));
    if (phase.blame.dialogMs > lengthMs / 2) return this.add(text(', while a dialog was open.'));
    if (phase.blame.idleMs > lengthMs / 2) return this.add(text(', most of which nothing ran.'));
    const { styleMs, layoutMs, paintMs, drawingMs } = phase.blame;
    if (styleMs + layoutMs + paintMs + drawingMs > lengthMs / 2)
      return this.add(text(', most of it style, layout and paint.'));
    const elsewhere = frameElsewhere(this.recording, this.anatomy.sting.thread, phase);
    if (elsewhere !== undefined) return this.add(text(`, in ${elsewhere}, which is not recorded.`));
    const isScript = scriptMs > lengthMs / 2;
    this.#leftUnseen = `A recording in fine mode ${isScript ? 'shows it' : 'tells whether it was script'}.`;
    return this.add(text(`, in ${isScript ? 'script' : 'code'} that was not seen.`));
  }

  /** What was forced, in a sentence of its own: by others than those that were named before. */
  #forcedApart(): this {
    const clause = forcedClause(this.recording, this.anatomy, ' It held ');
    return clause.length > 0 ? this.add(...clause, text('.')) : this;
  }

  drawing(phase: Phase): this {
    const lengthMs = phase.endMs - phase.startMs;
    if (!this.worthSaying(lengthMs)) return this;
    const { lead, library, entered, lengthMs: scriptMs } = phase.script;
    const { idleMs, dialogMs, unexplainedMs } = phase.blame;
    const drawnMs = lengthMs - scriptMs - idleMs - dialogMs - unexplainedMs;
    if (this.worthSaying(scriptMs)) {
      this.add(text(' Before the picture, '));
      if (library !== undefined && this.worthSaying(library.lengthMs)) {
        this.add(...libraryClause(this.recording, library));
      } else if (lead !== undefined && this.worthSaying(lead.totalMs)) {
        this.add(...this.#ran(phase, lead), text('.'));
      } else if (entered !== undefined && this.worthSaying(entered.lengthMs)) {
        this.add(...this.#entered(entered));
      } else this.add(text('script ran for '), ms(scriptMs), text('.'));
    }
    const restMs = lengthMs - scriptMs - dialogMs;
    if (!this.worthSaying(restMs)) return this;
    if (drawnMs < restMs / 2) {
      this.add(text(' The '), phaseLink('drawing', 'picture'), text(' came '), ...this.#roughly(restMs));
      const isFree = idleMs > restMs / 2;
      return this.add(text(` later${isFree ? ', while the thread was free for most of that' : ''}.`));
    }
    this.add(text(' '), phaseLink('drawing', 'Drawing'), text(' took '), ...this.#roughly(drawnMs));
    if (this.worthSaying(idleMs)) {
      this.add(text(', and the picture came '), ...this.#roughly(idleMs), text(' after that'));
    }
    return this.add(text('.'));
  }

  unexplained(): this {
    const { blame, unseenMs, sting } = this.anatomy;
    this.add(
      ...unseenClause(unseenMs, sting.feltMs),
      ...unexplainedClause(blame.unexplainedMs, sting.feltMs),
    );
    const { header } = this.recording;
    if (this.#leftUnseen !== undefined && isOfPage(header) && captureModeOf(header) === 'everyday')
      this.add(text(` ${this.#leftUnseen}`));
    return this;
  }

  /** A length that ends with the picture, whose time the browser may tell in steps only. */
  #roughly(lengthMs: number): BecausePart[] {
    const stepMs = this.anatomy.sting.interaction === undefined ? 0 : delayStepMs(this.recording);
    if (stepMs < 1) return [ms(lengthMs)];
    return [text('about '), ms(Math.max(stepMs, Math.round(lengthMs / stepMs) * stepMs))];
  }

  /** "Then" stands only after something. */
  #then(): string {
    return this.#cameBefore ? ' Then ' : ' ';
  }

  /** "eventHandler of solid-js ran for 163 ms; what it called was not seen." */
  #entered({ functionId, library, lengthMs }: UnseenEntry): BecausePart[] {
    this.#leftUnseen = 'A recording in fine mode shows what it called.';
    return [
      this.named(functionId),
      text(` of ${library} ran for `),
      ms(lengthMs),
      text('; what it called was not seen.'),
    ];
  }

  /** "onBoardAll ran for 477 ms: by samples about 68 % of it in trimOfPair", of the own function with the most time. */
  #ran(phase: Phase, lead: Culprit): BecausePart[] {
    const parts = [this.named(lead.functionId), text(' ran for '), ms(lead.totalMs)];
    const worst = firstOwn(this.recording, phase.culprits);
    if (worst === undefined) return parts;
    const share = worst.chargedMs / lead.totalMs;
    if (worst.functionId !== lead.functionId) {
      const called = calledClause(this.recording, worst, this.anatomy.sting.thread, phase);
      parts.push(
        text(`: ${knownAs(worst)}${percent(share)} of it in `),
        this.named(worst.functionId),
        text(called),
        ...hotLineClause(this.recording, worst),
      );
    } else if (worst.entryMs >= lead.totalMs / 2) {
      this.#leftUnseen = 'A recording in fine mode shows what it called.';
      parts.push(text('; what it called was not seen'));
    } else if (worst.selfMs >= lead.totalMs / 2) {
      parts.push(text(`, ${knownAs(worst)}${percent(worst.selfMs / lead.totalMs)} of it in its own code`));
      parts.push(...hotLineClause(this.recording, worst));
    } else if (worst.attributedMs >= lead.totalMs / 4) {
      const share = percent(worst.attributedMs / lead.totalMs);
      parts.push(
        text(`, ${knownAs(worst)}${share} of it in ${whatItCalled(worst, phase)}`),
        ...hotLineClause(this.recording, worst, { wholeMs: lead.totalMs, words: 'of it' }),
      );
    }
    return parts;
  }
}

/** "weft, which it called", where that is nearly all that was called out of own code. */
function whatItCalled({ attributedMs }: Culprit, { script: { below } }: Phase): string {
  if (below === undefined) return 'the engine, which it called';
  if (below.lengthMs >= attributedMs * NEARLY_ALL) return `${below.name}, which it called`;
  return `what it called, ${percent(below.lengthMs / attributedMs)} of that in ${below.name}`;
}

/** The sentence that explains one delay, by its phases. */
export function becauseOfDelay(recording: Recording, anatomy: Anatomy): BecausePart[] {
  const sentence = new Sentence(recording, anatomy).opening();
  for (const name of PHASES) {
    const phase = anatomy.phases.find((one) => one.name === name);
    if (phase !== undefined) sentence[name](phase);
  }
  return sentence.unexplained().parts;
}
