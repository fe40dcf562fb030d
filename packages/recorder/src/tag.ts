import { registerBlink } from './blink/register';
import { joinByElement } from './tag/element';

registerBlink();
joinByElement();
