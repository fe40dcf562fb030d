import { registerListeners } from './listeners/register';
import { joinByElement } from './tag/element';

registerListeners();
joinByElement();
