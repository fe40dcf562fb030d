import { offerListeners } from './listeners/offer';
import { joinByElement } from './tag/element';

offerListeners();
joinByElement();
