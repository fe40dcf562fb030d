import { offerBlink } from './blink/offer';
import { joinByElement } from './tag/element';

offerBlink();
joinByElement();
