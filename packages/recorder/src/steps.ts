import { offerCapture } from './page/offered';
import { StepCapture } from './steps/step-capture';

const element = document.currentScript as HTMLScriptElement | null;
element?.remove();
offerCapture(() => new StepCapture(element?.dataset['steps'] === 'texts'));
