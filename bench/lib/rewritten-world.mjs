/** Loaded before rewritten code in Node: the functions it calls, and the text of functions as it was written. */
import {
  ENTER,
  LEAVE,
  LEAVE_EXPRESSION,
  REGISTER,
  withoutInsertions,
} from '../../packages/server/dist/index.js';

Object.assign(globalThis, {
  [ENTER]: () => 1,
  [LEAVE]: () => 0,
  [LEAVE_EXPRESSION]: () => 0,
  [REGISTER]: () => {},
});
for (const name of [ENTER, LEAVE, LEAVE_EXPRESSION, REGISTER])
  Object.defineProperty(globalThis, name, { enumerable: false });
const text = Function.prototype.toString;
const { toString } = {
  toString() {
    return this === toString ? text.call(text) : withoutInsertions(text.call(this));
  },
};
Object.defineProperty(Function.prototype, 'toString', { value: toString, enumerable: false });
