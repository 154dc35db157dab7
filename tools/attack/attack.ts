import type { Random } from '#core/math/random.ts';

/** What came of one case: null where it held, else what broke, in a sentence. */
export type Outcome = string | null;

/** One kind of attack. Each case is made from chance alone, so that a seed tells it again. */
export interface Attack {
  readonly name: string;
  /** Cases of a whole run. */
  readonly cases: number;
  /** Begins anew; what it gives does one case after the other. */
  readonly begin: () => (random: Random) => Outcome | Promise<Outcome>;
}

export const whole = (random: Random, below: number) => Math.floor(random.uniform() * below);
export const oneOf = <T>(random: Random, list: readonly T[]): T => list[whole(random, list.length)]!;

/** Values that stand where they should not: each has broken something somewhere once. */
export const hostileValues: readonly (() => unknown)[] = [
  () => undefined,
  () => null,
  () => Number.NaN,
  () => Number.POSITIVE_INFINITY,
  () => -1,
  () => 1e308,
  () => 2 ** 53 - 1,
  () => 0xffffffff,
  () => 0.1,
  () => '',
  () => 'x'.repeat(70_000),
  () => '\u0000\u001b[2J\ud800',
  () => true,
  () => [],
  () => [[[[[[]]]]]],
  () => ({}),
  () => ({ length: { valueOf: 1, toString: 1 } }),
  () => ({ toString: 'no', valueOf: 'no' }),
  () => ({ length: 5 }),
  () => JSON.parse('{"__proto__": {"polluted": 1}, "constructor": 1}'),
  () => new Uint8Array(9),
  () => new Date(Number.NaN),
  () => 12345678901234567890n,
];

/** The same thing with one part of it replaced, left out, or put there twice. */
export function mutated(random: Random, value: unknown): unknown {
  const copy = structuredClone(value);
  const holders: (Record<string, unknown> | unknown[])[] = [];
  const walk = (v: unknown) => {
    if (typeof v !== 'object' || v === null || v instanceof Uint8Array) return;
    holders.push(v as Record<string, unknown>);
    for (const inner of Object.values(v)) walk(inner);
  };
  walk(copy);
  if (holders.length === 0) return oneOf(random, hostileValues)();
  const holder = oneOf(random, holders);
  if (Array.isArray(holder)) {
    const at = whole(random, holder.length + 1);
    const how = whole(random, 4);
    if (how === 0) holder.splice(at, 1);
    else if (how === 1) holder.splice(at, 0, structuredClone(holder[whole(random, holder.length)]));
    else if (how === 2) holder[at] = oneOf(random, hostileValues)();
    else for (let k = 0; k < 70 && holder.length > 0; k++) holder.push(structuredClone(holder[0]));
    return copy;
  }
  const keys = Object.keys(holder);
  const key = oneOf(random, keys.length > 0 ? keys : ['x']);
  const how = whole(random, 4);
  if (how === 0) delete holder[key];
  else if (how === 1 && typeof holder[key] === 'number')
    holder[key] = holder[key] * oneOf(random, [0, -1, 10, 1e3, 1e9, 0.001]);
  else holder[key] = oneOf(random, hostileValues)();
  return copy;
}

/** Runs something that must answer, whatever comes. */
export function answers(what: () => Outcome): Outcome {
  try {
    return what();
  } catch (error) {
    return `it threw: ${(error as Error)?.stack?.split('\n').slice(0, 3).join(' ') ?? String(error)}`;
  }
}
