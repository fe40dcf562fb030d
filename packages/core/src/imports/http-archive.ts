import type { Row } from '../format/rows';
import { counted, numberIn, textIn, withoutSecrets, type Imported, type OpenFormat } from './imported';

interface Archive {
  readonly log: { readonly entries: readonly unknown[]; readonly pages?: unknown };
}

function isHttpArchive(value: unknown): value is Archive {
  return Array.isArray((value as Partial<Archive> | null)?.log?.entries);
}

interface ArchivedRequest {
  readonly startedMs: number;
  readonly durationMs: number;
  readonly url: string;
  readonly waitMs: number | undefined;
  readonly bytes: number | undefined;
  readonly status: number | undefined;
}

function readEntry(given: unknown): ArchivedRequest | undefined {
  const entry = given as {
    startedDateTime?: unknown;
    time?: unknown;
    request?: { url?: unknown };
    response?: { status?: unknown; bodySize?: unknown };
    timings?: Record<string, unknown>;
  } | null;
  const startedMs = Date.parse(textIn(entry?.startedDateTime));
  const durationMs = numberIn(entry?.time);
  const url = textIn(entry?.request?.url);
  if (Number.isNaN(startedMs) || durationMs === undefined || durationMs < 0 || url === '') return undefined;
  const before = ['blocked', 'dns', 'connect', 'send', 'wait'].map((part) =>
    numberIn(entry?.timings?.[part]),
  );
  const waits = before.map((ms) => Math.max(0, ms ?? 0)).reduce((sum, ms) => sum + ms, 0);
  const bytes = numberIn(entry?.response?.bodySize);
  const status = numberIn(entry?.response?.status);
  return {
    startedMs,
    durationMs,
    url: withoutSecrets(url),
    waitMs: entry?.timings === undefined ? undefined : Math.min(waits, durationMs),
    bytes: bytes !== undefined && bytes >= 0 ? Math.round(bytes) : undefined,
    status: status !== undefined && status > 0 ? Math.round(status) : undefined,
  };
}

/** Reads the requests of an HTTP Archive, version 1.2. Queries, headers, cookies and bodies are not taken over. */
function readHttpArchive({ log: { entries, pages } }: Archive): Imported {
  const requests = entries.map(readEntry).filter((request) => request !== undefined);
  requests.sort((a, b) => a.startedMs - b.startedMs);
  const page = Array.isArray(pages) ? (pages[0] as { startedDateTime?: unknown } | null) : null;
  const pageMs = Date.parse(textIn(page?.startedDateTime));
  const firstMs = requests[0]?.startedMs ?? 0;
  const startedMs = Number.isNaN(pageMs) ? firstMs : Math.min(pageMs, firstMs);
  const rows = requests.map(({ startedMs: at, durationMs, url, waitMs, bytes, status }): Row => ({
    kind: 'request',
    thread: 0,
    startMs: at - startedMs,
    durationMs,
    url,
    initiator: 'archive',
    ...(waitMs === undefined ? {} : { responseStartMs: at - startedMs + waitMs }),
    ...(bytes === undefined ? {} : { bytes }),
    ...(status === undefined ? {} : { status }),
  }));
  const endMs = requests.reduce((most, one) => Math.max(most, one.startedMs - startedMs + one.durationMs), 0);
  const bad = entries.length - requests.length;
  return {
    format: 'HTTP Archive',
    available: ['resource'],
    startedMs,
    url: requests[0]?.url ?? '',
    lost: [
      'An archive holds requests only: no inputs, so no delays, and no script. Queries, headers, cookies and bodies were not taken over.',
      ...(bad > 0
        ? [`${counted(bad, 'entry has', 'entries have')} no time or address and were left out.`]
        : []),
    ],
    rows: [
      { kind: 'thread', id: 0, name: 'main thread', type: 'main' },
      ...rows,
      { kind: 'end', startMs: endMs, reason: 'stopped' },
    ],
  };
}

export const httpArchiveFormat: OpenFormat<Archive> = {
  name: 'an HTTP Archive',
  isJson: true,
  recognises: isHttpArchive,
  read: readHttpArchive,
};
