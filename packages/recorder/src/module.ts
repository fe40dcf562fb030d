import { offerBlink } from './blink/offer';
import { offerListeners } from './listeners/offer';
import { joinByCode as join } from './tag/join';

/** What `nettle-patch/recorder` offers to pages that do not come through the proxy. */
export function joinByCode(server: string, code: string): Promise<boolean> {
  offerBlink();
  offerListeners();
  return join(server, code);
}
