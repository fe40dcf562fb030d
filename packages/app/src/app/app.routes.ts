import type { Routes } from '@angular/router';

/** Views of a recording while none is open. */
const withoutRecording: Routes = ['Stings', 'Timeline', 'Calls', 'Source'].map((view) => ({
  path: view.toLowerCase(),
  loadComponent: () => import('./shell/no-recording.component').then((module) => module.NoRecordingComponent),
}));

export const routes: Routes = [
  { path: '', pathMatch: 'full', redirectTo: 'record' },
  {
    path: 'record',
    loadComponent: () => import('./record/record.component').then((module) => module.RecordComponent),
  },
  ...withoutRecording,
  {
    path: 'stings/:id',
    loadComponent: () => import('./stings/stings.component').then((module) => module.StingsComponent),
  },
  {
    path: 'timeline/:id',
    loadComponent: () => import('./timeline/timeline.component').then((module) => module.TimelineComponent),
  },
  {
    path: 'calls/:id',
    loadComponent: () => import('./calls/calls.component').then((module) => module.CallsComponent),
  },
  {
    path: 'source/:id',
    loadComponent: () => import('./source/source.component').then((module) => module.SourceComponent),
  },
  {
    path: 'compare',
    loadComponent: () => import('./compare/compare.component').then((module) => module.CompareComponent),
  },
  {
    path: 'compare/several',
    loadComponent: () => import('./compare/several.component').then((module) => module.SeveralComponent),
  },
  {
    path: 'shelf',
    loadComponent: () => import('./shelf/shelf.component').then((module) => module.ShelfComponent),
  },
  {
    path: 'trials',
    loadComponent: () => import('./trials/trials.component').then((module) => module.TrialsComponent),
  },
  {
    path: 'trials/:id',
    loadComponent: () => import('./trials/trial.component').then((module) => module.TrialComponent),
  },
  { path: '**', redirectTo: 'record' },
];
