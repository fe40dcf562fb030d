import { DETECTORS } from './list';

/** What a kind of sting is called, within a sentence: "slow response". */
export function kindLabel(kind: string): string {
  return DETECTORS.find((detector) => detector.kind === kind)?.label ?? kind;
}

/** A table of all kinds and when something is one, for the documentation. Markdown. */
export function kindsTable(): string {
  const rows = DETECTORS.map(
    ({ kind, label, about, isRate }) =>
      `| \`${kind}\` | ${label} | ${about} | ${isRate ? 'of each second' : 'one delay'} |`,
  );
  return ['| kind | called | when | `feltMs` is |', '| --- | --- | --- | --- |', ...rows].join('\n');
}
