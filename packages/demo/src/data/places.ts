/** The invented islands Skerry Line serves. */
export const PORTS = ['Holm', 'Tangay', 'Brinsay', 'Eastre', 'Saltwick', 'Morrisk'] as const;
export const VESSELS = ['Tystie', 'Maalie', 'Shalder', 'Tirrick'] as const;
