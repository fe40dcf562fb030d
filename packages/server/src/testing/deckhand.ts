/** A native app of the demo world as it presents itself, for tests of what emitters send. */
export const DECKHAND = {
  id: 'deckhand',
  title: 'Deckhand',
  url: 'app://deckhand',
  engine: 'Deckhand 3',
  device: 'phone',
  available: ['event'],
  missing: [],
};

/** The header of a recording of it. */
export function deckhandHeader(id: string) {
  const { title, url, engine, device, available, missing } = DECKHAND;
  return {
    kind: 'header',
    format: 'nettle-patch',
    version: '1.0',
    id,
    startedAt: '2026-11-20T12:40:00.000Z',
    title,
    mode: 'everyday',
    startUp: false,
    clockStepMs: 0.1,
    refreshMs: 16.7,
    target: { title, url, engine, device },
    available,
    missing,
  };
}
