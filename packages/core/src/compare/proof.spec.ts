import fc from 'fast-check';
import { defaultTreeAdapter, parse, type DefaultTreeAdapterTypes } from 'parse5';
import { describe, expect, it } from 'vitest';
import { comparisonPage } from '../report/comparison-page';
import { comparisonPicture } from '../report/comparison-picture';
import { proofOf } from '../report/proof';
import { DEFAULT_THRESHOLDS } from '../format/thresholds';
import { arbitraryRecording, deskHeader, recordingOf } from '../testing/arbitrary-recording';
import { recorded } from '../testing/recorded';
import { compareAnatomies } from './compare-anatomies';
import { flameDifference } from './flame-difference';

const LABEL = 'Tap button “Board all”';
const [before, after] = [recorded('board-all-exact'), recorded('board-all-exact-mended')];

describe('the middle attempts of one label', () => {
  it('are taken apart on one axis, each from its own input', () => {
    const { before: was, after: is } = compareAnatomies(before, after, LABEL, DEFAULT_THRESHOLDS);
    for (const side of [was!, is!]) {
      expect(side.phases.map(({ name }) => name)).toEqual(['waiting', 'handling', 'drawing']);
      expect(side.phases[0]!.startMs).toBe(0);
      expect(side.phases[2]!.endMs).toBeCloseTo(side.feltMs, 6);
      expect(side.blame.totalMs).toBeCloseTo(side.feltMs, 6);
    }
    expect(is!.feltMs).toBeLessThan(was!.feltMs / 2);
    expect(was!.culprits.map(({ name }) => name).join()).toContain('Pair');
  });

  it('are missing where nothing was done', () => {
    expect(compareAnatomies(before, recordingOf([]), LABEL, DEFAULT_THRESHOLDS).after).toBeUndefined();
  });
});

describe('the flame graph of the difference', () => {
  it('holds each caller together with what it calls, and every millisecond of both sides', () => {
    fc.assert(
      fc.property(arbitraryRecording, arbitraryRecording, (one, other) => {
        const boxes = flameDifference(one, other, 0);
        for (const box of boxes) {
          const inner = boxes.filter(
            ({ depth, left }) =>
              depth === box.depth + 1 && left >= box.left - 1e-9 && left < box.left + box.width - 1e-9,
          );
          const sum = inner.reduce((total, { width }) => total + width, 0);
          expect(sum).toBeLessThanOrEqual(box.width + 1e-9);
        }
        const roots = boxes.filter(({ depth }) => depth === 0);
        if (roots.length > 0) expect(roots.reduce((sum, { width }) => sum + width, 0)).toBeCloseTo(1, 9);
      }),
      { numRuns: 40 },
    );
  });

  it('gives a recording compared with itself the same on both sides of every box', () => {
    for (const { beforeMs, afterMs } of flameDifference(before, before, 0)) expect(afterMs).toBe(beforeMs);
  });

  it('shows what is gone only on the side of before', () => {
    const gone = flameDifference(before, after, 0.001).filter(({ name }) => name === 'bendingOfPair');
    expect(gone.length).toBeGreaterThan(0);
    for (const { beforeMs, afterMs } of gone) expect([beforeMs > 0, afterMs]).toEqual([true, 0]);
  });
});

/** Names of all elements of a page and of their attributes, and all its text, as a browser would read it. */
function readPage(html: string): { readonly tags: string[]; readonly text: string } {
  const tags: string[] = [];
  let text = '';
  const visit = (node: DefaultTreeAdapterTypes.Node) => {
    if (defaultTreeAdapter.isElementNode(node))
      tags.push(node.tagName, ...node.attrs.map(({ name }) => `@${name}`));
    if (defaultTreeAdapter.isTextNode(node)) text += node.value;
    if ('childNodes' in node) node.childNodes.forEach(visit);
  };
  visit(parse(html));
  return { tags, text };
}

describe('a proof', () => {
  const hostile = '<script>alert(1)</script>"><img src=x onerror=alert(2)>';

  it('is a page that runs nothing and refers to nothing outside of itself', () => {
    const header = deskHeader({ title: hostile });
    const page = comparisonPage(proofOf(recordingOf([], header), recordingOf([], header)));
    const { tags, text } = readPage(page);
    for (const tag of [
      'script',
      'img',
      'link',
      'iframe',
      'object',
      'a',
      'image',
      'use',
      '@src',
      '@href',
      '@onerror',
    ])
      expect(tags).not.toContain(tag);
    expect(text).toContain(hostile);
    expect(page).not.toMatch(/url\(|@import/);
    expect(page).toContain(`<meta http-equiv="Content-Security-Policy" content="default-src 'none';`);
  });

  it('says before and after, the verdict and what is gone, in words and in a picture', () => {
    const proof = proofOf(before, after);
    const { tags, text } = readPage(comparisonPage(proof));
    for (const words of [LABEL, 'too few to say', 'computeTrimByPairs', 'gone', 'own script'])
      expect(text).toContain(words);
    expect(tags.filter((tag) => tag === 'circle').length).toBeGreaterThanOrEqual(2);
    expect(comparisonPicture(proof)).toContain('the middle attempt');
  });
});
