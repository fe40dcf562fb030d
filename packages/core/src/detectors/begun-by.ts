import { causeInRange } from '../explanation/cause-chain';
import type { Recording } from '../recording/recording';
import type { Sting } from '../stings/sting';

/** A label within another: "Answer to api/shifts" becomes "answer to api/shifts". */
const within = (label: string) => label.charAt(0).toLowerCase() + label.slice(1);

/** Has a sting that is a part of what an input set going say so: by what was asked for, which is known exactly. */
export function withBeginning(recording: Recording, sting: Sting): Sting {
  if (sting.interaction !== undefined || sting.extent !== 'block') return sting;
  const [first, ...rest] = causeInRange(recording, sting.thread, sting);
  const isPart = first?.type === 'input' && rest.some(({ type }) => type === 'schedule');
  if (!isPart) return sting;
  return { ...sting, label: `${first.label}, then ${within(sting.label)}`, ownLabel: sting.label };
}
