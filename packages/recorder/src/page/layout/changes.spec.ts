import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Entry } from '../wrap/script-entries';
import { Changes, hasChanged, type Change } from './changes';

/** A tree, as far as it is looked at. */
function tree(text: string, comparisons: string[] = []): Node {
  const isEqualNode = (other: Node) => comparisons.push(text) > 0 && other.textContent === text;
  return { textContent: text, isEqualNode } as unknown as Node;
}

const exchange = (removed: Node[], added: Node[]): Change => ({
  node: tree('desk'),
  nodes: removed.length + added.length,
  attributes: 0,
  texts: 0,
  before: new Map(),
  exchanges: [{ removedNodes: removed, addedNodes: added }],
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

  it('is taken for one where they are too many, and fails at no number of them', () => {
    const comparisons: string[] = [];
    const rows = Array.from({ length: 300_000 }, () => tree('cabin 12', comparisons));
    const changes = new Changes();
    const record = { type: 'childList', target: tree('desk'), addedNodes: rows, removedNodes: rows };
    changes.add([record as unknown as MutationRecord], undefined);
    const change = changes.list()[0]![1].changes[0];
    expect(change?.nodes).toBe(600_000);
    expect(hasChanged(change!)).toBe(true);
    expect(comparisons).toEqual([]);
  });
});

describe('changes of a frame', () => {
  const writer = (type: string) => ({ type }) as unknown as Entry;
  const [ticker, radio] = [writer('ticker'), writer('radio')];
  const wrote = (count: number, target = () => tree('cabin 12')) =>
    Array.from({ length: count }, () => ({
      type: 'attributes',
      attributeName: 'class',
      oldValue: 'late',
      target: target(),
    })) as unknown as MutationRecord[];

  it('are looked at for each that wrote, however much another wrote before', () => {
    const changes = new Changes();
    changes.add(wrote(5000), ticker);
    changes.add(wrote(3), radio);
    const written = new Map(changes.list());
    expect(written.get(radio)).toMatchObject({ changes: { length: 3 }, more: 0 });
    expect(written.get(ticker)).toMatchObject({ changes: { length: 128 }, more: 4872 });
  });

  it('are looked at up to a number in all, and the others are counted', () => {
    fc.assert(
      fc.property(fc.array(fc.nat({ max: 300 }), { maxLength: 60 }), (counts) => {
        const changes = new Changes();
        counts.forEach((count, at) => changes.add(wrote(count), writer(`timer ${at}`)));
        const written = changes.list().map(([, one]) => one);
        const looked = written.flatMap((one) => one.changes).length;
        const more = written.reduce((sum, one) => sum + one.more, 0);
        expect(looked).toBeLessThan(2 * 128 + 2 * 16);
        expect(looked + more).toBe(counts.reduce((sum, count) => sum + count, 0));
      }),
    );
  });

  it('are of the first where a node is written to by several', () => {
    const changes = new Changes();
    const row = tree('cabin 12');
    changes.add(
      wrote(1, () => row),
      ticker,
    );
    changes.add(
      wrote(20, () => row),
      radio,
    );
    changes.add([], undefined, 7);
    expect(changes.list()).toMatchObject([
      [ticker, { changes: [{ attributes: 21 }] }],
      [radio, { changes: [], more: 0 }],
      [undefined, { changes: [], more: 7 }],
    ]);
  });

  it('are none where nothing was written and nothing passed over: who writes then stands first', () => {
    const changes = new Changes();
    changes.add([], undefined, 0);
    changes.add(wrote(1), ticker);
    changes.add([], undefined, 600);
    expect(changes.list()).toMatchObject([
      [ticker, { more: 0 }],
      [undefined, { more: 600 }],
    ]);
  });

  it('are none of a node of which only the value before is told', () => {
    const changes = new Changes();
    changes.add(wrote(1), ticker);
    changes.addValues(wrote(1));
    expect(changes.list().map(([by]) => by)).toEqual([ticker]);
  });
});
