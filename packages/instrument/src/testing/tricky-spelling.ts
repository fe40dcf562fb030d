/** Scripts that mean what they do by how they are spelled: spaces, line ends, comments, and semicolons that are left out. */
export const TRICKY_SPELLING: Readonly<Record<string, string>> = {
  'automatic semicolons': `
    const f = (x) => [x].map(String)
    const g = x => f(x)
    ;[1].forEach((x) => { f(x) })
    let i = 1
    const h = () => f(i)
    ++i
    const t = async () => {
      const a = f(1)
      await a
      await f(2)
      const b = f(3)
      await f(4), f(5)
      return b
    }
    function r() {
      return
      f(1)
    }
    result = t().then((v) => [g(1), h(), v, r()])`,
  'automatic semicolons in loops': `
    const f = (...x) => [x].map(String).join()
    const log = []
    function turns(n) {
      let sum = 0, x, y = (a) => [a].map(String)
      while (n-- > 0) {
        x = f(n, 1, 2, 3)
        log.push(x, f(n, 4, 5, 6))
        const z = y
        log.push(z(n), f(n, 7, 8, 9))
        if (n % 2 > 0 && f(n, 1, 2, 3)) continue
        sum += f(n, 1, 2, 3).length
        do x += f(n, 1)
        while (f(x, 1, 2, 3) === '')
        log.push(sum, x, f(n, 1, 2))
        for (const i of [1, 2]) sum += f(i, n, 1, 2).length
        x = y
        for (let i = 0; i < 3; i++) { sum = sum * 2 + i - 1 }
        sum++
        y(sum, f(n, 1, 2, 3))
        let w
        w = [sum, f(n, 1, 2, 3), log.length]
        here: for (const i of w) { f(i, 1, 2, 3); if (f(i, 1, 2, 3)) break here
          f(i, 4, 5, 6) }
        if (f(n, 1, 2, 3) === '') { sum = y } else sum += 1
        log.push(w.join(), f(n, sum))
      }
      return sum
    }
    result = [turns(5), log]`,
  'comments and regular expressions that look like code': `
    const f = (x) => [x].join(); // }finally{
    const r = /=>\\{}/.test('=>{}') /* => { */, s = '=> {', t = x => /* ) */ f(x); const u = (/* a => b */) => f(1), v = async(/* => */x)=>/[/]=>/.test(await x);
    result = v('/=>').then((w) => [r, s, t(1), u(), w]); // sourceMappingURL=none`,
  'unusual spaces and line ends': 'const f=x=>[x].join();\u2028const g=(a)=>\u2029f(a);result=[f(1),g(2)]',
  'comments of HTML at the beginning': `--> a comment at the very beginning
    --> and another
    const f = (x) => [x].join(); <!-- and one more
    result = f(1);`,
  'words with nothing between them and what follows, as a build without spaces leaves them': `
    function f(a,b){if(a)return[a,b,String(a)];else({a,b}=b||{a:[1].length,b:String(2)});if(a>0)throw{a,b:[a].concat(b)};
      do[a]=[(a||0)-1,String(b)];while(a>-3);if(b)return{a,b,c:[a].join()};else return"none"+[a].join()}
    function g(a){for(;;)if(a.length>2)return[...a];else[a]=[[...a,String(a.length)]]}
    function h(a){switch(a){case 1:return[a].map(String);case"two":return{a:[a]};default:return-a}}
    async function k(a){for await(const b of[a])if(b)return[b,await[b].map(String)];else throw[b].concat(a)}
    function*m(a){if(a)yield[a].map(String);else yield{a:[a].length};const b=yield[a];return[b].concat(a)}
    const c=(a)=>{try{return f(a)}catch(d){return[d.a,d.b]}};
    result=(async()=>[c(0),c(1),f(0,{a:-1,b:""}),g([1]),h(1),h("two"),h(3),await k(4),await k(0).catch((a)=>a),[...m(1)],[...m(0)]])();`,
  'calls on lines of their own': `
    const log = []; const f = (...x) => (log.push(x.length), [x].join()), none = () => [log.length].join();
    const tag = ({ raw }, ...x) => raw.join('|') + f(...x);
    class A { constructor(...x) { this.x = f(...x); this.to = new.target.name; } m() { return f(this.x, ...arguments); } static s() { return [this.name]; } }
    class B extends A {
      constructor() { const early = [
        none(),
        none()]; super(
        f(1),
        f(early)); this.after = super.m(
        none(),
      ); }
      n() { return [
        super.m(),
        super.m(
          none()),
        delete this
          .m().x, typeof
          none(), -
          none(),
        void none()]; }
    }
    function g(o, ...rest) {
      const v = [
        none(), arguments.length,
        ...[none()]
          .concat(), tag\`a\${
          none()}b\${
          f(2)}\`,
        tag\`c\`, new A, new
          A(), new (
          A.bind(null))(
            none(), (none(), class { k() { return f(4); } }).name), (none(), function () {}).name,
        o?.m(), o
          ?.m?.(
            f(5),
            none()), o.none
          ?.().m(
            none()), (0, o
          .m)(
            none() && 6)];
      o.innerHTML =
        f(7); o.innerHTML +=
        none(); o.kept ??=
        none(); o.kept &&=
        f(o
          .m(
            none())); [o.first = none()] = [
        none()].slice(
          f() ? 1 : 0);
      return f(v.map((x) => typeof x === 'object' ? JSON.stringify(x) : String(x)),
        none()) + (
        eval('rest.length') + eval(
          'arguments' + (none(), '.length')));
    }
    async function* h(o) { yield f(
      await none(),
      yield none(),
      await f(
        yield [none()]
          .concat(),
        await o.m(
          none()))); }
    const o = { m(...x) { return [this === o, x.length, ...x].join(); } };
    result = (async () => { const seen = [g(o, 1, 2), o.innerHTML, o.kept, o.first, JSON.stringify(new B()), new B().n(), A
      .s()
      .concat()
      .join()]; for await (const x of h(o)) seen.push(x); return [seen, log.length, String(g), String(h), String(B)]; })();`,
};
