/** A policy as its directives: lower-case names in their order, each with its values. */
type Policy = Map<string, string[]>;

/** How the recorder's element may show that the policy allows it. */
export interface RecorderPermit {
  /** Absolute addresses of the recorder's files, the recorder itself last. */
  readonly scriptUrls: readonly string[];
  /** Absolute address of the file that runs as its worker. */
  readonly senderUrl: string;
  /** Absolute address the page asks for what it waits for, where it may have to. */
  readonly askedUrl?: string;
  /** Nonce that the recorder's element carries. */
  readonly nonce: string;
}

const TRUSTED_TYPES_POLICIES = ['nettle-patch', 'nettle-patch-holder'];
const NONE = "'none'";

function parsePolicy(text: string): Policy {
  const policy: Policy = new Map();
  for (const directive of text.split(';')) {
    const [name, ...values] = directive.trim().split(/\s+/);
    if (name && !policy.has(name.toLowerCase())) policy.set(name.toLowerCase(), values);
  }
  return policy;
}

function writePolicy(policy: Policy): string {
  return [...policy].map(([name, values]) => [name, ...values].join(' ')).join('; ');
}

/** The first of some directives that the policy has: each falls back on those after it. */
function governing(policy: Policy, names: readonly string[]): string | undefined {
  return names.find((name) => policy.has(name));
}

function withSources(values: readonly string[], sources: readonly string[]): string[] {
  return [...values.filter((value) => value.toLowerCase() !== NONE), ...sources];
}

/** Adds sources for what `own` governs; a directive it falls back on stays as it is for everything else. */
function allow(policy: Policy, own: string, fallbacks: readonly string[], sources: readonly string[]): void {
  const from = governing(policy, [own, ...fallbacks]);
  if (from !== undefined) policy.set(own, withSources(policy.get(from)!, sources));
}

function isStrict(values: readonly string[]): boolean {
  return values.some((value) => value.toLowerCase() === "'strict-dynamic'");
}

function adaptOne(text: string, permit: RecorderPermit): string {
  const policy = parsePolicy(text);
  const script = governing(policy, ['script-src-elem', 'script-src', 'default-src']);
  if (script !== undefined) {
    const sources = isStrict(policy.get(script)!) ? [`'nonce-${permit.nonce}'`] : permit.scriptUrls;
    const own = script === 'default-src' ? 'script-src' : script;
    const workersBefore = governing(policy, ['worker-src', 'child-src', 'script-src', 'default-src']);
    const workerValues = workersBefore === undefined ? undefined : policy.get(workersBefore)!;
    allow(policy, own, ['default-src'], sources);
    if (workerValues !== undefined) policy.set('worker-src', withSources(workerValues, [permit.senderUrl]));
  } else {
    allow(policy, 'worker-src', ['child-src'], [permit.senderUrl]);
  }
  if (permit.askedUrl !== undefined) allow(policy, 'connect-src', ['default-src'], [permit.askedUrl]);
  const trusted = policy.get('trusted-types');
  if (trusted !== undefined) policy.set('trusted-types', withSources(trusted, TRUSTED_TYPES_POLICIES));
  return writePolicy(policy);
}

/**
 * Adapts the value of a Content-Security-Policy header (CSP Level 3) just enough for the recorder to run: its
 * own script and its own worker, and nothing else. Several policies, separated by commas, are adapted each.
 */
export function adaptPolicy(header: string, permit: RecorderPermit): string {
  return header
    .split(',')
    .map((policy) => adaptOne(policy, permit))
    .join(', ');
}
