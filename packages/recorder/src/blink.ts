import { registerBlink } from './blink/register';

(document.currentScript as HTMLScriptElement | null)?.remove();
registerBlink();
