import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatSnackBarHarness } from '@angular/material/snack-bar/testing';
import { TestbedHarnessEnvironment } from '@angular/cdk/testing/testbed';
import { TestBed } from '@angular/core/testing';
import Dexie from 'dexie';
import { IDBFactory, IDBKeyRange } from 'fake-indexeddb';
import { expect, it, vi } from 'vitest';
import { NettleDatabase } from '../../store/database';
import { storedRecording } from '../../testing/stored-recording';
import { shown } from '../../testing/shown';
import { ShelfService } from '../services/shelf.service';

Dexie.dependencies.indexedDB = new IDBFactory();
Dexie.dependencies.IDBKeyRange = IDBKeyRange;

@Component({ changeDetection: ChangeDetectionStrategy.OnPush, template: '' })
class NothingComponent {
  readonly shelf = inject(ShelfService);
}

/** A shelf with three recordings, and what offers to undo. */
async function shelf() {
  const database = new NettleDatabase();
  await database.recordings.clear();
  await database.recordings.bulkAdd(
    ['one', 'two', 'three'].map((id) => storedRecording(id, { title: `Deck ${id}` })),
  );
  const { fixture, component } = await shown(NothingComponent);
  const loader = TestbedHarnessEnvironment.documentRootLoader(fixture);
  const offers = () => loader.getHarness(MatSnackBarHarness);
  const ids = async () => (await database.recordings.toArray()).map(({ id }) => id).sort();
  return { remove: (...wanted: string[]) => component.shelf.remove(wanted), offers, ids, database };
}

it('the undo of what is deleted last puts back what was deleted shortly before, too', async () => {
  const { remove, offers, ids } = await shelf();
  await remove('one');
  expect(await (await offers()).getMessage()).toBe('“Deck one” was deleted.');
  await remove('three');
  const both = await offers();
  expect(await both.getMessage()).toBe('2 recordings were deleted, “Deck three” last.');
  expect(await ids()).toEqual(['two']);
  await both.dismissWithAction();
  await vi.waitFor(async () => expect(await ids()).toEqual(['one', 'three', 'two']));
  TestBed.resetTestingModule();
});

it('several that are deleted at once are put back at once', async () => {
  const { remove, offers, ids } = await shelf();
  await remove('one', 'two', 'gone');
  const both = await offers();
  expect(await both.getMessage()).toBe('2 recordings were deleted, “Deck two” last.');
  await both.dismissWithAction();
  await vi.waitFor(async () => expect(await ids()).toEqual(['one', 'three', 'two']));
  TestBed.resetTestingModule();
});

it('what was put back, or is no longer offered, is not put back again', async () => {
  const { remove, offers, ids } = await shelf();
  await remove('one');
  await (await offers()).dismissWithAction();
  await vi.waitFor(async () => expect(await ids()).toHaveLength(3));
  await remove('two');
  expect(await (await offers()).getMessage()).toBe('“Deck two” was deleted.');
  TestBed.resetTestingModule();
});
