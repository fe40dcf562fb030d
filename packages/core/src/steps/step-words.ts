import { durationText } from '../words/figures';
import type { Step } from './steps';

/** What a step does, and what with. */
export interface StepWords {
  readonly deed: string;
  readonly what: string;
}

const points = ({ x, y }: { x: number; y: number }) => `${x}, ${y} px`;

const standInWords = (letters = 0) =>
  letters === 1 ? '1 letter that stands in' : `${letters} letters that stand in`;

/** A step in words. */
export function stepWords(step: Step): StepWords {
  switch (step.do) {
    case 'click':
    case 'double-click':
    case 'hover':
      return { deed: step.do.replace('-', ' '), what: step.on };
    case 'wait-for':
      return { deed: 'wait for', what: step.on };
    case 'type':
      return { deed: 'type', what: step.text ?? standInWords(step.length) };
    case 'key':
      return { deed: 'press', what: [...(step.with ?? []), step.key].join(' + ') };
    case 'choose':
      return { deed: 'choose', what: `option ${step.index + 1} of ${step.on}` };
    case 'drag':
      return { deed: 'drag', what: `${step.on} by ${points(step.by)}` };
    case 'scroll':
      return { deed: 'scroll', what: `${step.on ?? 'the page'} by ${points(step.by)}` };
    case 'wait':
      return { deed: 'wait', what: durationText(step.ms) };
    case 'navigate':
      return { deed: 'open', what: step.url };
  }
}
