import { offerCapture } from './offer';
import { SignCapture } from './sign/sign-capture';

(document.currentScript as HTMLScriptElement | null)?.remove();
offerCapture(new SignCapture());
