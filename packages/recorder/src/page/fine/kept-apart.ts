/**
 * Keeps a function out of those that call it. Engines put what is called in one place into its caller, with all that it
 * calls, and would compile as much more with each of the app's functions in which it seldom runs, and so have them ready
 * later. What takes turns with another function in that place they leave where it is.
 */
export function keptApart(work: (given: number) => void): (given?: number) => 0 {
  const inTurn = [() => undefined, work];
  return (given = 0) => {
    for (let at = 0; at < inTurn.length; at++) inTurn[at]!(given);
    return 0;
  };
}
