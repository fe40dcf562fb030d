/** What a source lets one see, for people who do not know the standards by name. */
const SOURCES: Record<string, string> = {
  event: 'inputs and their delay',
  'input-listeners': 'inputs and their delay (by own listeners)',
  longtask: 'long tasks',
  'long-animation-frame': 'long frames and the scripts in them',
  'js-self-profiling': 'call stacks every 10 ms',
  mark: 'your marks',
  measure: 'your measures',
  resource: 'requests',
  'exact-calls': 'every call',
  'fine-samples': 'lines and counts of calls',
  handlers: 'handlers and what they came from',
  'forced-layout': 'forced layout',
  'render-probe': 'style, layout and paint',
  redraws: 'redraws',
  'own-tasks': 'long tasks (by own measuring)',
  scripts: 'scripts',
  memory: 'memory',
  collections: 'collections',
  'life-cycle': 'routes and life cycle',
  paint: 'first pictures',
  'largest-contentful-paint': 'largest picture',
  'layout-shift': 'layout shifts',
  steps: 'steps, to do them again',
  stacks: 'call stacks every millisecond',
  'display-sync': 'the sync of the display',
  'thread-states': 'what threads do',
};

/** What a source of the header lets one see; a name that is not known stays. */
export function sourceWords(source: string): string {
  return SOURCES[source] ?? source;
}
