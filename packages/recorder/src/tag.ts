import { joinByCode } from './tag/join';

const element = document.currentScript as HTMLScriptElement | null;
if (element !== null) void joinByCode(new URL(element.src).origin, element.dataset['code'] ?? '');
