import type * as z from 'zod';

interface Bounded {
  readonly minValue?: number | null;
  readonly maxValue?: number | null;
  unwrap?(): unknown;
}

/**
 * The bounds that a schema gives a number, for the fields in which it is typed: what a field takes, the file takes too.
 * @throws RangeError for a schema that is none of a bounded number
 */
export function limitsOf(schema: z.ZodType): readonly [min: number, max: number] {
  let s = schema as unknown as Bounded;
  while (typeof s.unwrap === 'function') s = s.unwrap() as Bounded;
  const { minValue, maxValue } = s;
  if (typeof minValue !== 'number' || typeof maxValue !== 'number')
    throw new RangeError('the schema is none of a bounded number');
  return [minValue, maxValue];
}
