import { keepFunctionText } from './page/exact/function-text';
import { keepIntegrity } from './exact/integrity';
import { keepTextInFrames } from './exact/frames';

document.currentScript?.remove();
keepFunctionText();
keepIntegrity();
keepTextInFrames();
