import { inject, provideBrowserGlobalErrorListeners, type ApplicationConfig } from '@angular/core';
import {
  MAT_FORM_FIELD_DEFAULT_OPTIONS,
  type MatFormFieldDefaultOptions,
} from '@angular/material/form-field';
import { PreloadAllModules, provideRouter, withComponentInputBinding, withPreloading } from '@angular/router';
import { ThemeService } from './services/theme.service';
import { PALETTE } from './shared/palette';
import { routes } from './app.routes';

/** All fields look the same; an error makes room for itself. */
const FIELDS: MatFormFieldDefaultOptions = { appearance: 'outline', subscriptSizing: 'dynamic' };

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    // All views are loaded at once, so that they are there when the server is not.
    provideRouter(routes, withComponentInputBinding(), withPreloading(PreloadAllModules)),
    { provide: MAT_FORM_FIELD_DEFAULT_OPTIONS, useValue: FIELDS },
    { provide: PALETTE, useFactory: () => inject(ThemeService).palette },
  ],
};
