import type { Routes } from '@angular/router';

export const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'record' },
  {
    path: 'record',
    title: 'Record · Nettle Patch',
    loadComponent: () => import('./record/record.component').then((module) => module.RecordComponent),
  },
  {
    path: 'stings',
    title: 'Stings · Nettle Patch',
    loadComponent: () =>
      import('./stings/no-recording.component').then((module) => module.NoRecordingComponent),
  },
  {
    path: 'stings/:id',
    title: 'Stings · Nettle Patch',
    loadComponent: () => import('./stings/stings.component').then((module) => module.StingsComponent),
  },
  {
    path: 'calls',
    title: 'Calls · Nettle Patch',
    loadComponent: () =>
      import('./stings/no-recording.component').then((module) => module.NoRecordingComponent),
  },
  {
    path: 'calls/:id',
    title: 'Calls · Nettle Patch',
    loadComponent: () => import('./calls/calls.component').then((module) => module.CallsComponent),
  },
  {
    path: 'shelf',
    title: 'Shelf · Nettle Patch',
    loadComponent: () => import('./shelf/shelf.component').then((module) => module.ShelfComponent),
  },
  { path: '**', redirectTo: 'record' },
];
