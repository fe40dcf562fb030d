/** Names of keys that are not a character (WebDriver, section 17.4.2), as UI Events calls them. */
export const KEYS: Readonly<Record<string, string>> = {
  Backspace: '\uE003',
  Tab: '\uE004',
  Enter: '\uE007',
  Shift: '\uE008',
  Control: '\uE009',
  Alt: '\uE00A',
  Meta: '\uE03D',
  Escape: '\uE00C',
  Space: ' ',
  PageUp: '\uE00E',
  PageDown: '\uE00F',
  End: '\uE010',
  Home: '\uE011',
  ArrowLeft: '\uE012',
  ArrowUp: '\uE013',
  ArrowRight: '\uE014',
  ArrowDown: '\uE015',
  Delete: '\uE017',
};

export const MODIFIERS = ['Shift', 'Control', 'Alt', 'Meta'] as const;
export type Modifier = (typeof MODIFIERS)[number];
