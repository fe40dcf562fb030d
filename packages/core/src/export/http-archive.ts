import { VERSION } from '../format/product-version';
import type { Recording } from '../recording/recording';

/** What the archive cannot tell as a number. */
const UNKNOWN = -1;

/**
 * The requests of a recording as an HTTP Archive, version 1.2. Headers, cookies, queries and bodies were never recorded
 * and are empty in it.
 */
export function httpArchive(recording: Recording): object {
  const startedAt = Date.parse(recording.header.startedAt);
  const when = (ms: number) => new Date(startedAt + ms).toISOString();
  const entries = [...recording.events.request.rows()].map((row) => {
    const waitMs = row.responseStartMs === undefined ? row.durationMs : row.responseStartMs - row.startMs;
    return {
      pageref: 'page',
      startedDateTime: when(row.startMs),
      time: row.durationMs,
      request: {
        method: 'GET',
        url: row.url,
        httpVersion: '',
        cookies: [],
        headers: [],
        queryString: [],
        headersSize: UNKNOWN,
        bodySize: UNKNOWN,
      },
      response: {
        status: row.status ?? 0,
        statusText: '',
        httpVersion: '',
        cookies: [],
        headers: [],
        content: { size: UNKNOWN, mimeType: '' },
        redirectURL: '',
        headersSize: UNKNOWN,
        bodySize: row.bytes ?? UNKNOWN,
      },
      cache: {},
      timings: { send: 0, wait: Math.max(0, waitMs), receive: Math.max(0, row.durationMs - waitMs) },
      comment: `asked for by ${row.initiator}; the method was not recorded`,
    };
  });
  return {
    log: {
      version: '1.2',
      creator: { name: 'Nettle Patch', version: VERSION },
      pages: [{ startedDateTime: when(0), id: 'page', title: recording.header.title, pageTimings: {} }],
      entries,
    },
  };
}
