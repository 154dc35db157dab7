import { broughtConventions } from '#core/answers/conventions.ts';
import { type Convention, conventionSchema } from '#core/formats/convention.ts';
import { parsed } from '#core/parsed.ts';
import { rows } from './store/database.ts';

/** Scales of other firmware, described once and kept by this browser by their names. */

export const isBroughtConvention = (name: string): boolean => broughtConventions.some((c) => c.name === name);

/** Those that are kept; one that cannot be read any more is left where it is and not shown. */
export async function keptConventions(): Promise<readonly Convention[]> {
  const all = await rows.all('conventions');
  return all.flatMap((row) => {
    const read = parsed(conventionSchema, row);
    return read.success ? [read.data] : [];
  });
}

/** @throws StoreFault */
export const keepConvention = (convention: Convention): Promise<void> =>
  rows.write([{ in: 'conventions', put: convention }]);

/** @throws StoreFault */
export const dropConvention = (name: string): Promise<void> =>
  rows.write([{ in: 'conventions', delete: name }]);
