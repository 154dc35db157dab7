import type { Catalogue } from '#core/settings/catalogue.ts';
import type { SettingEntry } from '#core/settings/catalogueSchema.ts';

/** Keys that differ only in a number are one family. */
const familyOf = (key: string) => key.replace(/(?<=\.)\d+(?=\.)/g, '$' + '{number}');

const typesOf = (e: SettingEntry): readonly string[] =>
  e.type === 'flag'
    ? ['boolean']
    : e.type === 'choice'
      ? (e.choices ?? []).map((c) => `'${c.value}'`)
      : [e.type === 'text' ? 'string' : 'number'];

/** `core/settings/pfadSettings.ts`: every key of a catalogue and what its value is, for the compiler. Made by `npm run demo`. */
export function settingTypes(catalogue: Catalogue, version: string): string {
  const families = new Map<string, Set<string>>();
  for (const e of catalogue.entries) {
    const types = families.get(familyOf(e.key)) ?? new Set<string>();
    for (const t of typesOf(e)) types.add(t);
    families.set(familyOf(e.key), types);
  }
  const lines = [...families].map(([key, types]) => {
    const name = key.includes('$') ? `[key: \`${key}\`]` : `'${key}'`;
    return `  ${name}: ${[...types].join(' | ')};`;
  });
  return [
    `/** Every setting of Pfad ${version} and what its value is. Made by \`npm run demo\` from the catalogue; not edited by hand. */`,
    'export interface PfadSettings {',
    ...lines,
    '}',
    '',
  ].join('\n');
}
