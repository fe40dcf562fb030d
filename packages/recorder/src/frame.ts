import { startFrame } from './frame/frame-part';
import { shared } from './page/shared';

(document.currentScript as HTMLScriptElement | null)?.remove();
shared.startFrame = startFrame;
