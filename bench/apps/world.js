/** What the apps are about: the passengers, ports and words of the Skerry Line, the same in every run. */
export const PORTS = ['Holm', 'Tangay', 'Brinsay', 'Eastre', 'Saltwick', 'Morrisk'];
export const quiet = new URLSearchParams(location.search).has('quiet');

const FIRST = ['Ása', 'Bjørn', 'Cáit', 'Dáire', 'Elísabet', 'Finnbarr', 'Gróa', 'Hávard', 'Ísold', 'Jórunn'];
const LAST = ['Ness', 'Holmgård', 'Skårvik', 'Tangaye', 'Brinsáy', 'Eastré', 'Saltwyk', 'Morrisk'];
const WORDS =
  'mind the ramp while the tide is on the turn and the lanes fill from the bow to the stern'.split(' ');

/** A repeatable stream of numbers from 0 to 1. */
export function numbers(seed) {
  let state = seed;
  return () => {
    state = (state * 1664525 + 1013904223) % 4294967296;
    return state / 4294967296;
  };
}

export function passengers(count) {
  const next = numbers(7);
  return Array.from({ length: count }, (_, id) => ({
    id,
    name: `${FIRST[Math.floor(next() * FIRST.length)]} ${LAST[Math.floor(next() * LAST.length)]}`,
    port: PORTS[Math.floor(next() * PORTS.length)],
    seat: Math.floor(next() * 240),
    fare: Math.round(next() * 9000) / 100,
  }));
}

export function sentence(next, words = 12) {
  return Array.from({ length: words }, () => WORDS[Math.floor(next() * WORDS.length)]).join(' ');
}
