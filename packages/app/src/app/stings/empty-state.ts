import { isBlind, seesInputs, seesLongTasks } from '../../workers/analysis/delay-coverage';
import type { OpenedRecording } from '../../workers/analysis/analysis-results';

export interface CalmWords {
  readonly title: string;
  readonly lines: readonly string[];
}

/** What is said when there is no sting to show. */
export function emptyState(
  { header, inputs }: Pick<OpenedRecording, 'header' | 'inputs'>,
  limited: boolean,
): CalmWords {
  const { engine } = header.target;
  if (isBlind(header)) {
    const why = `${engine} reports neither the delay of inputs nor long tasks, so this recording cannot tell whether anybody had to wait.`;
    return { title: 'Delays were not measured', lines: [why, 'Record the same in another browser.'] };
  }
  const unseen = [
    ...(seesInputs(header) ? [] : [`${engine} does not report the delay of inputs.`]),
    ...(seesLongTasks(header)
      ? []
      : [`${engine} does not report long tasks, so only inputs were looked at.`]),
  ];
  if (limited)
    return {
      title: 'No sting in this range',
      lines: ['Nothing here took longer than its budget.', ...unseen],
    };
  if (inputs.length === 0) {
    const lines = [
      'No task was long, and there was no input at all: use the page while recording.',
      ...unseen,
    ];
    return { title: 'No stings', lines };
  }
  const lines = [
    'Every input that was seen was answered within its budget, and no task was long.',
    ...unseen,
  ];
  return {
    title: 'No stings',
    lines: seesLongTasks(header) ? lines : ['Every input was answered within its budget.', ...unseen],
  };
}
