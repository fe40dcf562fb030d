import { ENDLESS, type TrialBench } from '../trials/trial-bench';
import type { TrialAnswer, TrialProblem, TrialQuestion } from '../trials/trial-messages';

/** An alternative as a simulated page runs it. */
export interface SimulatedAlternative {
  /** What a run takes. Milliseconds. */
  readonly runMs: number;
  /** What it gives. */
  readonly text?: string;
  readonly isSteady?: boolean;
  readonly isComparable?: boolean;
  /** What goes wrong when it is first called. */
  readonly problem?: TrialProblem;
  /** Bytes by which the heap grows in a run. */
  readonly bytes?: number;
}

/** How noisy the machine is: shares by which starts, and blocks within them, differ from each other. */
export interface SimulatedNoise {
  readonly random: () => number;
  /** What moves all that runs in one start. */
  readonly ofStart?: number;
  /** What moves one alternative in one start. */
  readonly ofPlace?: number;
  readonly ofBlock?: number;
}

/** Runs nothing, and answers as a page would in which alternatives take what they are said to. */
export class SimulatedBench implements TrialBench {
  readonly asked: TrialQuestion[] = [];
  isClosed = false;
  #isDead = true;
  #start = 1;
  #places: number[] = [];

  constructor(
    private readonly alternatives: readonly SimulatedAlternative[],
    private readonly noise: SimulatedNoise,
  ) {}

  async ask(question: TrialQuestion): Promise<TrialAnswer> {
    this.asked.push(question);
    if (question.do === 'begin') return this.#begin();
    if (this.#isDead) return { problem: ENDLESS };
    switch (question.do) {
      case 'load':
        return {};
      case 'check':
        return this.#check(question.at);
      case 'warm':
        return { turns: Math.max(1, Math.ceil(question.blockMs / this.alternatives[question.at]!.runMs)) };
      case 'time':
        return {
          blocks: question.blocks.map(({ at, turns }) => {
            const { runMs, bytes } = this.alternatives[at]!;
            const ms = turns * runMs * this.#start * this.#places[at]! * this.#factor(this.noise.ofBlock);
            return { ms, ...(bytes === undefined ? {} : { bytes: bytes * turns }) };
          }),
        };
    }
  }

  async close(): Promise<void> {
    this.isClosed = true;
  }

  #begin(): TrialAnswer {
    this.#isDead = false;
    this.#start = this.#factor(this.noise.ofStart);
    this.#places = this.alternatives.map(() => this.#factor(this.noise.ofPlace));
    return { begun: { clockStepMs: 0.005, engine: 'Blink 156' } };
  }

  #check(at: number): TrialAnswer {
    const { problem, text = 'same', isSteady = true, isComparable = true } = this.alternatives[at]!;
    if (problem?.kind === 'endless') this.#isDead = true;
    if (problem !== undefined) return { problem };
    const sameAs = this.alternatives.findIndex(
      (one) => one.problem === undefined && (one.text ?? 'same') === text,
    );
    return { checked: { text, sameAs, isSteady, isComparable } };
  }

  #factor(share = 0): number {
    const { random } = this.noise;
    return Math.exp(share * (random() + random() + random() - 1.5));
  }
}
