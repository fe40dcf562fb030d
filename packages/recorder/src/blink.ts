import { offerBlink } from './blink/offer';

(document.currentScript as HTMLScriptElement | null)?.remove();
offerBlink();
