import { joinByCode } from './join';

/** Joins by the code of the element that this script came with. */
export function joinByElement(): void {
  const element = document.currentScript as HTMLScriptElement | null;
  if (element !== null) void joinByCode(new URL(element.src).origin, element.dataset['code'] ?? '');
}
