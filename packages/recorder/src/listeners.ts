import { offerListeners } from './listeners/offer';

(document.currentScript as HTMLScriptElement | null)?.remove();
offerListeners();
