import fc from 'fast-check';
import type { Catalogue, SettingValue, Values } from '#core/settings/catalogue.ts';
import type { SettingEntry } from '#core/settings/catalogueSchema.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';

function anyValue(e: SettingEntry): fc.Arbitrary<SettingValue> {
  switch (e.type) {
    case 'flag':
      return fc.boolean();
    case 'choice':
      return fc.constantFrom(...e.choices!.map((c) => c.value));
    case 'integer':
      return fc.integer({ min: e.min ?? -32768, max: e.max ?? 32767 });
    case 'text':
      return fc
        .string({ unit: 'binary-ascii', maxLength: e.max ?? 64 })
        .map((s) => s.replace(/[^ -~]/g, ' '));
    default:
      return fc.double({ min: e.min ?? -1e6, max: e.max ?? 1e6, noNaN: true });
  }
}

/**
 * For tests: some settings changed to anything that each accepts by itself; together they may break the board's
 * rules between settings.
 * @param most changed settings
 */
export function anySettingsOf(catalogue: Catalogue, most = 60): fc.Arbitrary<Values> {
  return fc
    .subarray([...catalogue.entries], { maxLength: most })
    .chain((some) => fc.record(Object.fromEntries(some.map((e) => [e.key, anyValue(e)]))));
}

/** The same for the catalogue that is written out. */
export const anyChanges = (most = 60): fc.Arbitrary<Values> => anySettingsOf(pfadCatalogue, most);
