import { offerCapture } from './page/offered';
import { SignCapture } from './sign/sign-capture';

(document.currentScript as HTMLScriptElement | null)?.remove();
offerCapture(() => new SignCapture());
