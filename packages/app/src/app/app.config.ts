import { inject, provideBrowserGlobalErrorListeners, type ApplicationConfig } from '@angular/core';
import { PreloadAllModules, provideRouter, withComponentInputBinding, withPreloading } from '@angular/router';
import { ThemeService } from './services/theme.service';
import { PALETTE } from './shared/palette';
import { routes } from './app.routes';

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners() /* All views are loaded at once, so that they are there when the server is not. */,
    provideRouter(routes, withComponentInputBinding(), withPreloading(PreloadAllModules)),
    { provide: PALETTE, useFactory: () => inject(ThemeService).palette },
  ],
};
