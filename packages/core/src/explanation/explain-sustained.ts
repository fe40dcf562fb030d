import { functionTable } from '../calls/function-table';
import { WIDE_LENS } from '../calls/lens';
import type { Recording } from '../recording/recording';
import type { StingDetail } from '../stings/sting';
import type { Anatomy } from './anatomy';
import { becauseOfCulprits } from './because-culprits';
import { becauseOfOutcome } from './because-outcome';
import { count, functionPart, ms, percent, text, times, type BecausePart } from './sentence';
import { writeWords } from './write-words';

type DetailOf<Type extends StingDetail['type']> = Extract<StingDetail, { type: Type }>;

function seconds(lengthMs: number): string {
  return lengthMs < 1000 ? `${Math.round(lengthMs)} ms` : `${(lengthMs / 1000).toFixed(1)} s`;
}

function lateFrames(recording: Recording, anatomy: Anatomy, detail: DetailOf<'late-frames'>): BecausePart[] {
  const { sting } = anatomy;
  return [
    text(
      `For ${seconds(sting.endMs - sting.startMs)} the picture lagged: ${count(detail.late)} frames came late, the worst `,
    ),
    ms(sting.feltMs, true),
    text(
      ` after the one before it where the display waits ${Math.round(detail.refreshMs)} ms, and ${count(detail.missed)} were missed.`,
    ),
    ...becauseOfCulprits(recording, anatomy),
  ];
}

function forcedLayout(
  recording: Recording,
  { sting, forced }: Anatomy,
  detail: DetailOf<'forced-layout'>,
): BecausePart[] {
  const row = forced.find(({ startMs, read }) => startMs === sting.startMs && read === detail.read);
  const by = detail.functionId === undefined ? text('Script') : functionPart(recording, detail.functionId);
  return [
    by,
    text(` made the browser lay the page out ${times(detail.count)} in one task, by reading ${detail.read}`),
    text(row?.write === undefined ? ': ' : ` after ${writeWords(row.write)}: `),
    ms(sting.feltMs, true),
    text(', in which nothing else could run.'),
  ];
}

/** " Most of that went to standingFor.", where one function below it takes most of what it takes. */
function mostBelow(recording: Recording, thread: number, functionId: number): BecausePart[] {
  const table = functionTable(recording, { ...WIDE_LENS, thread, foldLibraries: true, focus: functionId });
  const allMs = table.reduce((sum, { selfMs }) => sum + selfMs, 0);
  const [first] = table.filter((row) => row.functionId !== functionId && row.owner === 'own');
  if (first === undefined || first.selfMs < allMs / 3) return [];
  const known = first.count > 0 ? '' : 'By samples ';
  const share = percent(first.selfMs / allMs);
  return [text(` ${known}${share} of that went to `), functionPart(recording, first.functionId), text('.')];
}

function idleWork(recording: Recording, thread: number, detail: DetailOf<'idle-work'>): BecausePart[] {
  const { functionId, timesASecond, msASecond, unchangedShare, unseenShare, target } = detail;
  const often =
    timesASecond >= 1.5
      ? `${count(timesASecond)} times a second`
      : `every ${(1 / timesASecond).toFixed(1)} s`;
  const where = target === undefined ? 'the page' : target;
  const vain =
    unchangedShare >= unseenShare
      ? `in ${percent(unchangedShare)} of its redraws it wrote to ${where} what was there before`
      : `in ${percent(unseenShare)} of its redraws nothing that changed could be seen, as in ${where}`;
  return [
    text('While nobody did anything, '),
    functionPart(recording, functionId),
    text(` ran ${often} and took `),
    ms(msASecond, true),
    text(` of each second; ${vain}.`),
    ...mostBelow(recording, thread, functionId),
  ];
}

function creep(recording: Recording, thread: number, detail: DetailOf<'creep'>): BecausePart[] {
  const { functionId, fromMs, toMs, slope, runs } = detail;
  const more = runs.to > runs.from * 1.25;
  const why = more
    ? `It ran ${runs.from.toFixed(1)} times a second at first and ${runs.to.toFixed(1)} times at the end.`
    : 'It ran no more often than before, so each run costs more.';
  return [
    text('The longer the app ran, the more '),
    functionPart(recording, functionId),
    text(' took: '),
    ms(fromMs),
    text(' of each second at first, '),
    ms(toMs, true),
    text(
      ` at the end. That is ${count(slope.slope)} ms more each minute (${count(slope.low)} to ${count(slope.high)}). ${why}`,
    ),
    ...mostBelow(recording, thread, functionId),
  ];
}

function inputCreep(
  recording: Recording,
  thread: number,
  { functionId, deed, attempts, fromMs, toMs, slope }: DetailOf<'input-creep'>,
): BecausePart[] {
  const more = slope.slope < 10 ? slope.slope.toFixed(1) : count(slope.slope);
  return [
    text(`The more often it was done, the longer ${deed} was handled: `),
    ms(fromMs),
    text(' at first, '),
    ms(toMs, true),
    text(` after ${times(attempts)}, about ${more} ms more each time.`),
    ...(functionId === undefined
      ? []
      : [text(' It was handled by '), functionPart(recording, functionId), text('.')]),
    ...(functionId === undefined ? [] : mostBelow(recording, thread, functionId)),
  ];
}

function redrawnTooOften(
  recording: Recording,
  thread: number,
  detail: DetailOf<'redrawn-too-often'>,
): BecausePart[] {
  const { functionId, timesASecond, msASecond, unchangedShare, target } = detail;
  return [
    functionPart(recording, functionId),
    text(` drew ${count(timesASecond)} times a second and took `),
    ms(msASecond, true),
    text(
      ` of each second; in ${percent(unchangedShare)} of its redraws it wrote to ${target ?? 'the page'} what was there before.`,
    ),
    ...mostBelow(recording, thread, functionId),
  ];
}

function movedByLayout(recording: Recording, detail: DetailOf<'moved-by-layout'>): BecausePart[] {
  const { functionId, timesASecond, msASecond, target } = detail;
  return [
    text('While nobody did anything, '),
    functionPart(recording, functionId),
    text(
      ` moved ${target ?? 'something'} ${count(timesASecond)} times a second, and each time style and layout were done anew: `,
    ),
    ms(msASecond, true),
    text(' of each second.'),
  ];
}

function tooOften(recording: Recording, anatomy: Anatomy, detail: DetailOf<'too-often'>): BecausePart[] {
  const lengthMs = anatomy.sting.endMs - anatomy.sting.startMs;
  return [
    text('One task called '),
    functionPart(recording, detail.functionId),
    text(` ${times(detail.calls)}: `),
    ms(detail.totalMs, true),
    text(
      `, ${percent(detail.totalMs / lengthMs)} of the task, where a frame has ${Math.round(anatomy.sting.budgetMs)} ms.`,
    ),
  ];
}

function unseen({ sting }: Anatomy, { times: often, totalMs, remedy }: DetailOf<'unseen'>): BecausePart[] {
  return [
    text(`The main thread was busy ${times(often)} with code that was not seen, for `),
    ms(totalMs),
    text(' in all, the longest for '),
    ms(sting.feltMs, true),
    text(`. ${remedy}`),
  ];
}

/** The sentence of stings that tell of what goes on rather than of one delay. */
export function explainSustained(recording: Recording, anatomy: Anatomy, detail: StingDetail): BecausePart[] {
  switch (detail.type) {
    case 'slow-outcome':
      return becauseOfOutcome(recording, anatomy, detail);
    case 'late-frames':
      return lateFrames(recording, anatomy, detail);
    case 'forced-layout':
      return forcedLayout(recording, anatomy, detail);
    case 'idle-work':
      return idleWork(recording, anatomy.sting.thread, detail);
    case 'creep':
      return creep(recording, anatomy.sting.thread, detail);
    case 'input-creep':
      return inputCreep(recording, anatomy.sting.thread, detail);
    case 'redrawn-too-often':
      return redrawnTooOften(recording, anatomy.sting.thread, detail);
    case 'moved-by-layout':
      return movedByLayout(recording, detail);
    case 'unseen':
      return unseen(anatomy, detail);
    case 'too-often':
      return tooOften(recording, anatomy, detail);
  }
}
