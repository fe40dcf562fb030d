import { expect, it } from 'vitest';
import { StackSamples, type LookSamples } from './stack-samples';

it('tells how many samples came together, where some did', () => {
  const taken: LookSamples[] = [];
  const samples = new StackSamples((chunk) => taken.push(chunk));
  const calls = Int32Array.of(0, 7);
  samples.add(1, calls, 1);
  samples.add(2, calls, 1, 30);
  samples.handOver();
  samples.add(3, calls, 1);
  samples.handOver();
  expect(taken.map(({ together }) => together && [...together])).toEqual([[1, 30], undefined]);
});

it('leaves out the middle of a stack deeper than 1,024 calls, and keeps its innermost', () => {
  const taken: LookSamples[] = [];
  const samples = new StackSamples((chunk) => taken.push(chunk));
  const calls = Int32Array.from({ length: 30_001 }, (_, at) => at);
  samples.add(1, calls, 1024);
  samples.add(2, calls, 30_000);
  samples.add(3, calls, 30_000);
  samples.handOver();
  const [{ timesMs, stacks }] = taken as [LookSamples];
  expect([...timesMs]).toEqual([1, 2, 3]);
  expect([...stacks.subarray(0, 1025)]).toEqual([1024, ...calls.subarray(1, 1025)]);
  const deeper = stacks.subarray(1025);
  expect(deeper[0]).toBe(1024);
  expect([...deeper.subarray(1, 258)]).toEqual([...calls.subarray(1, 257), 30_000 - 767]);
  expect(deeper[1024]).toBe(30_000);
  expect([...deeper.subarray(1025)]).toEqual([-1]);
});
