import { registerCapture } from './page/capture-registry';
import { RecordingIndicator } from './sign/recording-indicator';

(document.currentScript as HTMLScriptElement | null)?.remove();
registerCapture(() => new RecordingIndicator());
