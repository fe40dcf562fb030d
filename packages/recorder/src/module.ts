import { registerBlink } from './blink/register';
import { registerListeners } from './listeners/register';
import { joinByCode as join } from './tag/join';

/** What `nettle-patch/recorder` offers to pages that do not come through the proxy. */
export function joinByCode(server: string, code: string): Promise<boolean> {
  registerBlink();
  registerListeners();
  return join(server, code);
}
