import { bytesText, msText, canonicalFunction, originalPath } from '@nettle-patch/core';
import { othersAmong } from './other-occurrences';
import { kilobytes, type Fact, type DetailsContext, type ItemSummary } from './item-details-types';

/** A request: parts of its time, size, who asked. Never what was in it. */
export function requestDetails({ recording, named, chain }: DetailsContext, ref: number): ItemSummary {
  const row = recording.events.request.row(ref);
  const { url, startMs, durationMs, initiator, responseStartMs, bytes, status, function: by } = row;
  const asker = by === undefined ? undefined : named(canonicalFunction(recording, by));
  const facts: Fact[] = [
    { label: 'took', text: msText(durationMs) },
    { label: 'asked for by', text: asker === undefined ? initiator : `${initiator}, in ${asker.title}` },
  ];
  if (responseStartMs !== undefined) {
    facts.push({ label: 'until the first byte', text: msText(responseStartMs - startMs) });
    facts.push({ label: 'reading the answer', text: msText(startMs + durationMs - responseStartMs) });
  }
  if (bytes !== undefined) facts.push({ label: 'size on the wire', text: kilobytes(bytes) });
  if (status !== undefined && status > 0)
    facts.push({ label: 'status', text: String(status), over: status >= 400 });
  return {
    what: 'Request',
    title: originalPath(url) || url,
    place: asker?.place ?? '',
    startMs,
    endMs: startMs + durationMs,
    ...(by === undefined ? {} : { functionId: canonicalFunction(recording, by) }),
    facts,
    chain: () => chain(0, { startMs, endMs: startMs + 0.001 }),
    others: () => othersAmong(recording.events.request.rows(), (one) => one.url === url),
  };
}

/** A named span or a mark, with all of the same name. */
export function spanDetails({ recording, chain }: DetailsContext, ref: number): ItemSummary {
  const { name, type, startMs, durationMs } = recording.events.span.row(ref);
  const what: Readonly<Record<string, string>> = {
    mark: 'Mark',
    measure: 'Named span',
    note: 'Mark by hand',
  };
  return {
    what: what[type] ?? 'Named span',
    title: name,
    startMs,
    endMs: startMs + durationMs,
    facts: durationMs > 0 ? [{ label: 'length', text: msText(durationMs) }] : [],
    chain: () => chain(0, { startMs, endMs: startMs + Math.max(0.001, durationMs) }),
    others: () => othersAmong(recording.events.span.rows(), (one) => one.name === name),
  };
}

/** Memory in use, or a collection. */
export function memoryDetails({ recording }: DetailsContext, ref: number): ItemSummary {
  if (ref < 0) {
    const { startMs, durationMs } = recording.events.collection.row(-2 - ref);
    return {
      what: 'Collection',
      title: 'Memory was collected',
      startMs,
      endMs: startMs + (durationMs ?? 0),
      facts: [collectionFact(durationMs)],
    };
  }
  const { startMs, usedKb, limitKb } = recording.events.memory.row(ref);
  const before = ref === 0 ? undefined : recording.events.memory.row(ref - 1).usedKb;
  const change =
    before === undefined
      ? ''
      : `, ${usedKb >= before ? '+' : '−'}${kilobytes(Math.abs(usedKb - before) * 1024)}`;
  return {
    what: 'Memory',
    title: `${bytesText(usedKb * 1024)} in use`,
    startMs,
    endMs: startMs,
    facts: [
      { label: 'in use', text: `${bytesText(usedKb * 1024)}${change}` },
      ...(limitKb === undefined ? [] : [{ label: 'at most', text: `${bytesText(limitKb * 1024)}` }]),
    ],
  };
}

/** What was changed for a frame, to another value or not, in view or not. */
export function redrawDetails({ recording, named, chain }: DetailsContext, ref: number): ItemSummary {
  const row = recording.events.redraw.row(ref);
  const { startMs, nodes, attributes, texts, changed, inView, target, function: by } = row;
  const functionId = by === undefined ? undefined : canonicalFunction(recording, by);
  const writer = functionId === undefined ? undefined : named(functionId);
  return {
    what: 'Redraw',
    title: target ?? 'the document',
    place: writer?.place ?? '',
    startMs,
    endMs: startMs,
    ...(functionId === undefined ? {} : { functionId }),
    facts: [
      { label: 'elements and texts', text: String(nodes) },
      { label: 'attributes', text: String(attributes) },
      { label: 'texts written', text: String(texts) },
      { label: 'to another value', text: changed ? 'yes' : 'no, all as it was before', over: !changed },
      { label: 'in view', text: inView ? 'yes' : 'no, out of view', over: !inView },
      ...(writer === undefined ? [] : [{ label: 'written by', text: writer.title }]),
    ],
    chain: () => chain(0, { startMs: startMs - 0.001, endMs: startMs + 0.001 }),
  };
}

/** A change in the life of the page. */
export function stateDetails({ recording }: DetailsContext, ref: number): ItemSummary {
  const { startMs, type, value } = recording.events.state.row(ref);
  return { what: 'Life of the page', title: `${type}: ${value}`, startMs, endMs: startMs };
}

/** Pictures that a display asked for. */
export function forcedDetails({ recording, chain }: DetailsContext, ref: number): ItemSummary {
  const { startMs, durationMs, shown, missed } = recording.events.sync.row(ref);
  const range = { startMs, endMs: startMs + durationMs };
  return {
    what: 'Display sync',
    title: missed > 0 ? `${missed} pictures missed` : `${shown} pictures in time`,
    ...range,
    facts: [
      { label: 'asked for', text: String(shown + missed) },
      { label: 'missed', text: String(missed), over: missed > 0 },
      { label: 'interval', text: msText(recording.header.refreshMs) },
    ],
    chain: () => chain(0, range),
  };
}

/** What a thread did, as the system told. */
export function activityDetails({ recording }: DetailsContext, ref: number): ItemSummary {
  const { thread, startMs, durationMs, state, on } = recording.events.activity.row(ref);
  const name = recording.threads.get(thread)?.name ?? `thread ${thread}`;
  return {
    what: 'Thread state',
    title: `${name} ${state}`,
    startMs,
    endMs: startMs + durationMs,
    facts: [
      { label: 'length', text: msText(durationMs) },
      ...(on === undefined ? [] : [{ label: 'on', text: on, over: state === 'blocked' }]),
    ],
    others: () =>
      othersAmong(recording.events.activity.rows(), (one) => one.thread === thread && one.state === state),
  };
}

function collectionFact(durationMs: number | undefined): Fact {
  return durationMs === undefined
    ? { label: 'known by', text: 'an object that was given up; how long it took is not told' }
    : { label: 'stopped the thread for', text: msText(durationMs) };
}
