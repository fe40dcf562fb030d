import { describe, expect, it } from 'vitest';
import { hasChanged, type Change } from './changes';

/** A tree, as far as it is looked at. */
function tree(text: string, comparisons: string[] = []): Node {
  const isEqualNode = (other: Node) => comparisons.push(text) > 0 && other.textContent === text;
  return { textContent: text, isEqualNode } as unknown as Node;
}

const exchange = (removed: Node[], added: Node[]): Change => ({
  node: tree('desk'),
  by: undefined,
  nodes: removed.length + added.length,
  attributes: 0,
  texts: 0,
  before: new Map(),
  removed,
  added,
  isIncomparable: false,
});

describe('a change of trees', () => {
  it('is none where the same is put in their place', () => {
    expect(hasChanged(exchange([tree('Astrid')], [tree('Astrid')]))).toBe(false);
    expect(hasChanged(exchange([tree('Astrid')], [tree('Bjarne')]))).toBe(true);
    expect(hasChanged(exchange([], [tree('Bjarne')]))).toBe(true);
  });

  it('is taken for one where they are large: nobody waits until they are compared', () => {
    const comparisons: string[] = [];
    const manifest = 'Håkon Ångström, cabin 12; '.repeat(5000);
    expect(hasChanged(exchange([tree(manifest, comparisons)], [tree(manifest)]))).toBe(true);
    expect(comparisons).toEqual([]);
  });
});
