import { bootstrapApplication } from '@angular/platform-browser';
import { Board } from './board';

bootstrapApplication(Board).catch((error: unknown) => console.error(error));
