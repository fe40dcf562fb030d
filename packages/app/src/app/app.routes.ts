import type { Routes } from '@angular/router';

/** Views of a recording while none is open. */
const withoutRecording: Routes = ['Stings', 'Timeline', 'Calls', 'Source'].map((view) => ({
  path: view.toLowerCase(),
  title: `${view} · Nettle Patch`,
  loadComponent: () => import('./shell/no-recording.component').then((module) => module.NoRecordingComponent),
}));

export const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'record' },
  {
    path: 'record',
    title: 'Record · Nettle Patch',
    loadComponent: () => import('./record/record.component').then((module) => module.RecordComponent),
  },
  ...withoutRecording,
  {
    path: 'stings/:id',
    title: 'Stings · Nettle Patch',
    loadComponent: () => import('./stings/stings.component').then((module) => module.StingsComponent),
  },
  {
    path: 'timeline/:id',
    title: 'Timeline · Nettle Patch',
    loadComponent: () => import('./timeline/timeline.component').then((module) => module.TimelineComponent),
  },
  {
    path: 'calls/:id',
    title: 'Calls · Nettle Patch',
    loadComponent: () => import('./calls/calls.component').then((module) => module.CallsComponent),
  },
  {
    path: 'source/:id',
    title: 'Source · Nettle Patch',
    loadComponent: () => import('./source/source.component').then((module) => module.SourceComponent),
  },
  {
    path: 'compare',
    title: 'Compare · Nettle Patch',
    loadComponent: () => import('./compare/compare.component').then((module) => module.CompareComponent),
  },
  {
    path: 'shelf',
    title: 'Shelf · Nettle Patch',
    loadComponent: () => import('./shelf/shelf.component').then((module) => module.ShelfComponent),
  },
  { path: '**', redirectTo: 'record' },
];
