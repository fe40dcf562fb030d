import { TRICKY_SPELLING } from './tricky-spelling';

/**
 * Scripts with what rewriting could easily break. Each sets `result` to a value, or to a promise of one, that a
 * change in meaning would alter.
 */
export const TRICKY_SCRIPTS: Readonly<Record<string, string>> = {
  'arguments and their length': `
    function f() { return [arguments.length, [...arguments], f.length]; }
    function g(a, b = f(a), ...c) { arguments[0] = 9; return [a, b, c, arguments.length, g.length]; }
    function h(a, b) { a = a + f().length; return [arguments[0], a, b]; }
    result = [f(1, 2), g(1), g(1, 2, 3, 4), h(1, 2)];`,
  'this, in sloppy and strict code': `
    function sloppy() { return typeof this === 'object' && f(this) ; }
    function f(it) { return String(it === globalThis); }
    function strict() { 'use strict'; return String(this) + f(1); }
    const arrow = () => f(this);
    result = [sloppy(), sloppy.call(5), strict(), strict.call(5), arrow.call(7)];`,
  'new.target and constructors': `
    function Lane() { return new.target === Lane ? Object.assign(this, { made: list(1) }) : list(2); }
    const list = (x) => [x].map(String);
    class Deck { constructor(n) { this.n = list(n); } static of(n) { return new this(n); } }
    class CarDeck extends Deck { constructor() { const early = () => list(0); super(early()); this.t = new.target.name; } }
    result = [new Lane(), Lane(), Deck.of(3), CarDeck.of(1), new CarDeck() instanceof Deck];`,
  'a derived constructor that never calls super': `
    class A {} class B extends A { constructor() { [1].map(String); } }
    try { new B(); } catch (error) { result = error.name; }`,
  'a constructor that returns another object': `
    class A { constructor() { return [1, 2].map((x) => { return [x].map(String); }); } }
    result = [Array.isArray(new A()), new A()];`,
  'getters, setters, computed and private names': `
    const log = []; const note = (x) => (log.push(x), x);
    class P { #a = note('field'); get a() { return note(this.#a); } set a(v) { this.#a = note(v); }
      static #s() { return note('static'); } static s() { return P.#s(); }
      [note('computed')]() { return note(1); } has(o) { return #a in o && note(true); } }
    const p = new P(); p.a = 'set';
    result = [p.a, P.s(), p.computed(), p.has(p), log, { get x() { return note('literal'); } }.x];`,
  'class fields and static blocks': `
    const f = (x) => [x].concat(x);
    class F { a = f(1); b = () => f(this.a); static c = f(2); static { this.d = f(3); } ['e' + 1] = f(4); }
    const x = new F(); result = [x.a, x.b(), F.c, F.d, x.e1];`,
  'loops of which it is written how many turns they take': `
    const LANES = 3; let log = '';
    function f(a) { let sum = a; for (let i = 0; i < 3; i++) { const b = sum * 2 + i; sum = b - a * 3; } return sum }
    function g(a) { let s = 0; for (let i = 0; i < LANES; i++) s += Math.abs(a - i) * i + 2
      return s }
    function h(a) { if (a) for (var i = 9; i > 0; i -= 4) a = a * 2 + i - 1; else a = -1; return [a, i] }
    function k(a) { here: for (let i = 0; i < 2; i++) a.n = a.n * 3 + i - 1; return a.n }
    function l(a) { switch (a) { case 1: for (let i = 0; i < 2; ++i) a += i * 3 + 1; default: return a } }
    const m = (a) => { for (let i = 0; i < 2; i++) a = a * 2 + i * 3
    ;[a].map((b) => (log += b)); return a };
    function* n(a) { for (let i = 0; i < 3; i++) { a = a * 2 + i * 3 - 1; } yield a; for (let i = 0; i < 3; i++) a += (yield i) * 2 + i; return a }
    result = [f(5), g(4), h(3), h(0), k({ n: 4 }), l(1), m(5), [...n(2)], log, [f, g, h, k, l, m, n].join()];`,
  'names and text of functions': `
    const arrow = (a, b) => [a, b].map(String); function named(x /* a comment */) { return [x].map(String) }
    const obj = { method(x) { return [x].map(String); }, async *gen() { yield* [1].map(String); }, get g() { return [1].map(String); } };
    class T { static m() { return [1].map((x) => { return [x].join(); }); } constructor() { [].map(String); } }
    const wait = async () => await [1].map(String);
    result = [arrow.name, named.name, String(arrow), String(named), String(obj.method), String(obj.gen), String(T), String(T.m),
      String(wait), Object.getOwnPropertyDescriptor(obj, 'g').get.toString(), named + '', \`\${arrow}\`];`,
  'text of a function made anew': `
    const make = (x) => { const twice = [x].map((y) => { return [y, y].join('-'); }); return twice; };
    result = (0, eval)('(' + make.toString() + ')')('a');`,
  directives: `
    function strict() { "use strict"; undeclared = [1].map(String); }
    function two() { 'use nothing'
      'use strict'
      try { undeclared = [2].map(String); } catch (e) { return e.name } }
    function not() { ('use strict'); return [this === undefined].map(String); }
    let caught; try { strict(); } catch (error) { caught = error.name; }
    result = [caught, two(), not(), strict.toString()];`,
  hoisting: `
    result = [early(), typeof later, (function () { return inner(); function inner() { return [1].map(String); } })()];
    function early() { return [2].map(String); } var later = function () { return [1].map(String); };`,
  'arrow bodies': `
    const f = (x) => [x];
    const a = x => ({ x: f(x) }), b = (x) => (f(x), f(2)), c = x => /* => */ f(x) /* end */, d = (x = () => f(1)) =>
      // a comment => here
      f(x()), e = async x => (await f(x)), g = (x) => (y) => (z) => f(x + y + z), h = () => {}, i = x => f(x) ? f(1) : f(2);
    const seq = (() => f(1), () => f(2));
    result = Promise.resolve(e(3)).then((v) => [a(1), b(1), c(1), d(), v, g(1)(2)(3), h(), i(1), seq()]);`,
  'statements without braces that wait': `
    const f = async (x) => [x].map(String);
    async function t(n) { const out = [];
      if (n) await f(1); else await f(2);
      for (let i = 0; i < 2; i++) await f(i);
      while (n-- > 0) await f(n);
      do await f(1); while (n > 0)
      label: for (const x of [1, 2]) { await f(x); if (x) continue label; }
      out.push(await f(await f(await 1)));
      switch (await f(3)) { default: await f(4) }
      return [out, n, (await f(5))?.[0], await f(6) ? await f(7) : 0, [...(await f(8))], { [await f(9)]: await f(10) }];
    }
    result = t(2);`,
  'exceptions pass through': `
    const log = [];
    function thrower() { try { log.push('t'); throw new TypeError(String([1].map(String))); } finally { log.push('f'); } }
    function outer() { try { thrower(); } catch { log.push('c'); return [1].map(String); } finally { log.push('o'); } }
    function overriding() { try { thrower(); } finally { return log.length; } }
    result = [outer(), overriding(), log];`,
  'finally that overrides': `
    const f = (x) => [x].map(String);
    function a() { for (const x of f(1)) { try { return f(1); } finally { continue; } } return f(2); }
    function b() { l: try { return f(1); } finally { break l; } return f(3); }
    result = [a(), b()];`,
  'async functions that fail': `
    const log = []; const fail = async (x) => { log.push(x); throw new RangeError([x].join()); };
    async function a() { try { await fail('a'); } catch (error) { log.push(error.message); await null; log.push([1].join()); return 'caught'; } finally { log.push('finally'); await null; } }
    async function b() { await fail('b'); }
    async function c() { try { return await fail('c'); } finally { await b().catch(() => log.push('b failed')); } }
    result = Promise.allSettled([a(), b(), c()]).then((all) => [all.map((s) => s.value ?? s.reason.message), log]);`,
  'order of microtasks': `
    const log = []; const f = async (n) => { for (let i = 0; i < 3; i++) { log.push(n + i); await null; } return n; };
    const p = Promise.resolve(); p.then(() => log.push('then')); const g = f('a'); f('b'); p.then(() => log.push('then 2'));
    result = g.then(() => log);`,
  generators: `
    const log = []; const note = (x) => (log.push(x), [x].join());
    function* inner() { try { const got = yield note(1); note(got); yield; } finally { note('inner closed'); } return 'inner'; }
    function* outer() { try { const x = yield* inner(); note(x); const y = yield 'z', w = yield; return [y, w]; } catch (e) { note(e); yield 'caught'; } finally { note('closed'); } }
    const a = outer(); const first = [a.next(), a.next('in'), a.next(), a.next('Y'), a.next('W'), a.next()];
    const b = outer(); b.next(); const thrown = [b.throw('bad'), b.next()];
    const c = outer(); c.next(); const returned = [c.return('R'), c.next()];
    const d = outer().return('early'); const e = [...function* () { yield* [1, 2]; yield* new Set(note(3)); }()];
    result = [first, thrown, returned, d, e, log];`,
  'generators that call themselves': `
    function* walk(n) { if (n > 0) { yield* walk(n - 1); yield n; yield* walk(n - 1); } }
    function* take(it, n) { for (const x of it) { if (n-- === 0) return; yield x; } }
    result = [...take(walk(5), 9)];`,
  'async generators and for await': `
    const log = []; const note = (x) => (log.push(x), [x].join());
    async function* count(n) { try { for (let i = 0; i < n; i++) { await null; yield note(i); } } finally { await null; note('closed'); } }
    async function t() {
      const out = [];
      for await (const x of count(3)) out.push(x);
      outer: for await (const x of count(9)) { for await (const y of count(3)) { if (y === '1') continue outer; if (x === '1') break outer; out.push([x, y]); } }
      if (out) for await (const x of count(2)) if (x) out.push(x); else note('never');
      try { for await (const x of count(3)) { throw new Error(note('thrown ' + x)); } } catch (error) { out.push(error.message); }
      const early = async () => { for await (const x of [Promise.resolve(4), 5]) return note(x); };
      out.push(await early());
      a: b: for await (const x of count(2)) continue a;
      return out; }
    result = t().then((out) => [out, log]);`,
  'yield and await in odd places': `
    const f = (...x) => [x].join();
    async function* g() { const a = [yield 1, await f(2), ...((yield* [3]) ?? [])]; const { b = await f(4), [await f('k')]: k } = { k: yield f(5) };
      yield \`\${await f(6)}-\${yield 7}\`; (await f(8)).length; yield (await f(9), await f(10)); yield async () => await f(11);
      const h = await (async (x = f(12)) => x)(); return [a, b, k, h, typeof await f(13), !(await f(14)), -await 15, await 2 ** 3 || 1]; }
    result = (async () => { const it = g(); const out = []; let step; let i = 0; while (!(step = await it.next('in' + i++)).done) out.push(typeof step.value === 'function' ? await step.value() : step.value); return [out, step.value]; })();`.replace(
    'await 2 ** 3 || 1',
    '(await 2) ** 3 || 1',
  ),
  'tail position': `
    'use strict';
    const even = (n) => (n === 0 ? [true].map(String) : odd(n - 1)); const odd = (n) => (n === 0 ? [false].map(String) : even(n - 1));
    function count(n, sum) { if (n === 0) return [sum].join(); return count(n - 1, sum + n); }
    result = [even(10), count(10, 0)];`,
  'eval and Function keep their scope': `
    var outside = 1; function f(x) { var inside = [2].join(); return eval('x + inside + outside'); }
    result = [f(3), new Function('a', 'return [a].join()')(4), (0, eval)('typeof inside')];`,
  'labels, switch and comma': `
    function f(n) { a: { b: for (;;) { switch (n) { case 1: break a; case 2: n = 1; continue b; default: n--; } } } return [n].join(); }
    result = [f(5), (f(1), f(2)), void f(1)];`,
  'default parameters see their own scope': `
    const f = (x) => [x].join(); var x = 'outer';
    function g(a = () => f(x), x = 'param') { var y = a(); x = 'body'; return [y, a(), f(x)]; }
    result = g();`,
  'destructuring with calls': `
    const f = (x) => [x].join();
    function g({ a = f(1), ...rest } = {}, [b = f(2), , c] = []) { return [a, rest, b, c, f(3)]; }
    result = [g(), g({ a: 5, z: 1 }, [6, 7, 8])];`,
  'callee of a tagged template, optional calls': `
    const tag = (strings, ...v) => [strings.raw.join('|'), v].join(); const o = { m() { return [this === o].join(); } };
    result = [tag\`a\${1}\\n\${2}\`, o?.m?.(), o.n?.(), (o.m)(), (0, o.m)()];`,
  'stack overflow is caught as before': `
    let depth = 0; function deep() { depth++; deep(); [1].map(String); }
    try { deep(); } catch (error) { result = [error.name, depth > 500]; }`,
  'symbols and iteration protocols': `
    class R { *[Symbol.iterator]() { yield* [1, 2].map(String); } get [Symbol.toStringTag]() { return ['R'].join(); } [Symbol.toPrimitive](hint) { return [hint].join(); } }
    const r = new R(); result = [[...r], String(r), \`\${r}\`, r + '', Object.prototype.toString.call(r)];`,
  'functions as properties of a prototype, call, apply, bind': `
    function Ship(n) { this.n = [n].join(); } Ship.prototype.sail = function (to) { return [this.n, to].join(); };
    const s = new Ship(1); const b = s.sail.bind(new Ship(2), 'Holm');
    result = [s.sail('Tangay'), Ship.prototype.sail.call({ n: 3 }, 'x'), Ship.prototype.sail.apply({ n: 4 }, ['y']), b(), b.name, b.length, new (Ship.bind(null, 5))().n];`,
  'bodies that are empty, or directives only': `
    const a = async () => {}, o = { async m() {}, *g() {}, async *h() {} }; function* g() {} async function f() { 'use strict' }
    class C { async m() {} static *g() {} }
    result = Promise.all([a(), o.m(), f(), new C().m(), o.h().next()]).then((all) => [all, [...g()], [...o.g()], [...C.g()], String(f), String(a)]);`,
  'functions that share their name with a variable, a parameter or each other': `
    function f(n) { var g; function g() { return [n].join(); } return [typeof g, g()]; }
    function p(g) { function g() { return [1].join(); } return [typeof arguments[0], g()]; }
    function two() { function g() { return [1].join(); } function g() { return [2].join(); } return g(); }
    function strict() { 'use strict'; function g() { return [1].join(); } function g() { return [2].join(); } return g(); }
    function inner() { function g() { return [1].join(); } { function g() { return [2].join(); } } return g(); }
    function evil() { function g() { return [1].join(); } eval('var g'); return typeof g; }
    function own() { function arguments() { return [1].join(); } return typeof arguments; }
    function loop() { for (var g of [[1].join()]); function g() {} return typeof g; }
    function apart() { function g() { return [1].join(); } return (() => { var g = [2].join(); return g; })() + g(); }
    result = [f(1), p(2), two(), strict(), inner(), evil(), own(), loop(), apart()];`,
  'a loop that waits and is left for a loop around it': `
    async function* count(n) { for (let i = 0; i < n; i++) yield [i].join(); }
    async function f() { const seen = []; outer: for (const a of [1, 2, 3]) { for await (const b of count(3)) { if (b === '1') continue outer; seen.push(a + b); } }
      outer: for (const a of [1, 2]) { inner: for await (const b of count(3)) { if (b === '1') break outer; seen.push(a + b); continue inner; } }
      try { for await (const b of count(3)) { throw [b].join(); } } catch (error) { seen.push(error); }
      return [seen, [seen.length].join()]; }
    async function g() { for await (const b of count(3)) return [b].join(); }
    result = Promise.all([f(), g(), f()]);`,
  'a script that is only directives': `'use strict'; result = 1`,
  'statements without braces': `
    const o = { n: 0, m() { return [this.n++].join(); } }, out = [];
    function f(a) { if (a > 2) return (o.m)(); else if (a > 1) return (o.m()); else if ((o.m)()) throw (o.m)(); }
    function g(n) { for (let i = 0; i < n; i++) out.push((o.m)()); while (n-- > 0) if ((o.m)()) out.push(n); else out.push(o.m());
      do out.push((o.m)()), n++; while (n < 1) out.push('after'); for (const k in { a: 1 }) for (const v of [k, 2]) out.push(v + o.m());
      for (;;) if (n++ > 3) break; for (; (o.m)() && n < 8; ) n++; for (let i = [1].length; i < 3; i = i + [i].length); return [n].join(); }
    function h(x) { switch ([x].join()) { case '1': out.push(o.m()); case '2': { let x = o.m(); out.push(x); break } default: out.push('d') } }
    let caught; try { f(0); } catch (error) { caught = error; }
    h(1); h(2); h(3);
    result = [f(3), f(2), caught, g(2), out];`,
  'labels before what is marked': `
    function f() { const out = []; a: for (const x of [1, 2, 3].map(String)) { b: for (const y of [x].concat(x)) { if (x === '2') continue a; if (x === '3') break a; out.push(x + y); } }
      c: { out.push([1].join()); if (out.length) break c; out.push('never'); } d: out.push([2].join()); return out; }
    result = f();`,
  'static blocks and fields that call': `
    const f = (...x) => [x].join();
    class A { static { f(1); for (const x of [1, 2].map(String)) A.last = f(x, this === A); } one = f(A.last) }
    function make(n) { class B { static all = [f(n)]; static { if (n > 1) B.all.push(f('big')); else B.all.push((f)('small')); } get() { return f(n, ...B.all); } } return new B().get(); }
    result = [A.last, new A().one, make(1), make(2)];`,
  'loops that wait, without braces': `
    const f = async (x) => [x].map(String); const out = [];
    async function t() { for await (const x of [f(1), f(2)]) out.push((await f(x)).join()); for await (const x of [f(1)]) if (x) out.push(x.join()); else out.push(0);
      for (const x of [1, 2]) out.push(await f(x)); while (out.length < 6) out.push(await f('w')); do await f(out.push('d')); while (out.length < 9) return (await f(3)).join(); }
    async function* g() { for (const x of [1, 2]) yield f(x); for await (const x of [3]) yield x; }
    result = (async () => { const seen = [await t()]; for await (const x of g()) seen.push(x); return [seen, out]; })();`,
  'small functions of all forms': `
    const a = (x) => x * 2, b = (x) => ({ x }), c = (x) => x ? 1 : 2, d = (x) => (y) => x + y, e = function (x) { return x; }, g = (x) => { }, h = x => x = x + 1, i = () => .5, j = () => /=>/;
    class P { get v() { return 7; } set v(x) { this.w = x; } static s = 1; constructor() { } } class Q extends P { constructor() { super(); } }
    function s(x) { 'use strict'; return this === undefined && x; }
    const q = new Q(); q.v = 3; result = [a(2), b(3), c(0), d(1)(2), e(4), g(1), h(5), i(), j().source, q.v, q.w, s(1), String(a), String(b), String(c), String(d), String(e), String(g), String(i), String(s), String(P)];`,
  'several declared at once, and what is joined by commas': `
    const o = { n: 0, m(...x) { return [this.n++, ...x].join(); } }, f = (x) => [x].join();
    function g() { const a = f(1), b = () => f(2), c = (o.m)(3), { d = f(4), e } = (f(5), { e: (o.m)(6) }), h = class { k() { return f(7); } };
      let i = 0, j = i++, k = (i++, o.m(i)); o.m(1), (o.m)(2), k += f(8); return f(9), (o.m)(a, b()), [a, b.name, b(), c, d, e, h.name, new h().k(), i, j, k].join(); }
    const l = (x) => (f(x), (o.m)(x), f(x + 1)), p = (x) => (o.m(x), { x });
    result = [g(), l(1), p(2), String(g), String(l)];`,
  'chains of calls over several lines': `
    const list = [3, 1, 2];
    function f(names) {
      return names
        .filter((x) => x > 0)
        .map(String, this)
        .sort((a, b) => (a < b ? -1 : 1))
        .concat(...names, names.map((x) => [x].join()))
        .join('-').split('', 9)
        ?.at?.(0);
    }
    const o = { add(x) { (this.all ??= []).push(x); return this; } };
    const sum = (...args) => args.length + ':' + args.join();
    result = [f(list), o.add(1)
      .add((2, 3)).add(x => [x])
      .all.length, sum(1, list.at(0), 4), new Map([[1, 2]]).get(1), String(f)];`,
  ...TRICKY_SPELLING,
};
