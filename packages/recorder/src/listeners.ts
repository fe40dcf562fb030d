import { registerListeners } from './listeners/register';

(document.currentScript as HTMLScriptElement | null)?.remove();
registerListeners();
