import { registerCapture } from './page/capture-registry';
import { StepCapture } from './steps/step-capture';

const element = document.currentScript as HTMLScriptElement | null;
element?.remove();
registerCapture(() => new StepCapture(element?.dataset['steps'] === 'texts'));
