import { escapeXml } from './escape-xml';

/** One thing that was tested, as a build server lists it. */
export interface TestCase {
  readonly name: string;
  /** How it ended; `skipped` where it cannot be told. */
  readonly outcome: 'passed' | 'failed' | 'skipped';
  /** Why it failed or was skipped, in one line. */
  readonly message?: string;
  /** More about it, in several lines. */
  readonly details?: string;
  /** How long it took. Milliseconds. */
  readonly tookMs?: number;
}

function caseXml(suite: string, { name, outcome, message = '', details = '', tookMs = 0 }: TestCase): string {
  const attributes = `classname="${escapeXml(suite)}" name="${escapeXml(name)}" time="${(tookMs / 1000).toFixed(3)}"`;
  const messageAttribute = `message="${escapeXml(message)}"`;
  switch (outcome) {
    case 'passed':
      return `    <testcase ${attributes}/>`;
    case 'failed':
      return `    <testcase ${attributes}><failure ${messageAttribute}>${escapeXml(details)}</failure></testcase>`;
    case 'skipped':
      return `    <testcase ${attributes}><skipped ${messageAttribute}/></testcase>`;
  }
}

/** Test cases in the XML that build servers read of test runners of every kind. @param suite what was tested */
export function junitXml(suite: string, cases: readonly TestCase[]): string {
  const count = (outcome: TestCase['outcome']) => cases.filter((one) => one.outcome === outcome).length;
  const counts = `tests="${cases.length}" failures="${count('failed')}" skipped="${count('skipped')}" errors="0"`;
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<testsuites ${counts}>`,
    `  <testsuite name="${escapeXml(suite)}" ${counts}>`,
    ...cases.map((one) => caseXml(suite, one)),
    '  </testsuite>',
    '</testsuites>',
    '',
  ].join('\n');
}
