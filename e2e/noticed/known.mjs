/** What a page can notice all the same, by name of the check: in which ways of looking at it, and why. */
const RECORDED = ['everyday', 'fine', 'exact'];
const ALWAYS = ['proxied', ...RECORDED];
const REWRITTEN = ['fine', 'exact'];
const QUOTED =
  'an engine that quotes a function which cannot be cloned, in the message of its error, quotes the text it runs';
const LANGUAGE =
  'the recorder uses the language: functions of arrays, maps and numbers that an app replaces are called by it';

export const KNOWN = {
  'what the window holds': {
    ways: ALWAYS,
    why: 'a symbol, by which the recorders of windows that reach each other find what they share; in fine and exact mode also what rewritten scripts write to and call',
  },
  'errors: frames of a stack below the app’s own': {
    ways: ALWAYS,
    why: 'a callback is called by the recorder, whose frames stand below those of the app; no engine lets them be left out',
  },
  'a revoked proxy as a listener': {
    ways: ALWAYS,
    why: 'an engine may pass over in silence what it cannot ask for `handleEvent`; here it is asked, and the error is reported',
  },
  'own WeakMap.prototype.get is called by nobody else': { ways: ALWAYS, why: LANGUAGE },
  'own Map.prototype.get is called by nobody else': { ways: RECORDED, why: LANGUAGE },
  'own Array.prototype.push is called by nobody else': { ways: RECORDED, why: LANGUAGE },
  'own Array.prototype[Symbol.iterator] is called by nobody else': { ways: ALWAYS, why: LANGUAGE },
  'own Math.round is called by nobody else': { ways: RECORDED, why: LANGUAGE },
  'document: as text': {
    ways: REWRITTEN,
    why: 'the text of a script in the page is the rewritten one',
  },
  'integrity of scripts': {
    ways: REWRITTEN,
    why: 'a hash of a script that comes rewritten is not told to the browser: it is read back, but stands in no attribute',
  },
  'history: what cannot be': { ways: REWRITTEN, why: QUOTED },
  'messages: what cannot be sent': { ways: REWRITTEN, why: QUOTED },
};
