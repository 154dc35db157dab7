import { MAX_CRAFT_BYTES, readCraftFile } from '#core/formats/craftFile.ts';
import type { SettingValue, Values } from '#core/settings/catalogue.ts';
import { compareSettings } from '#core/settings/compare.ts';
import { type MigrationItem, migrate, pathBetween } from '#core/settings/migration/migrate.ts';
import { settingsFromToml, settingsToToml } from '#core/settings/text.ts';
import { catalogueOf, isPfadVersion } from '#firmware/releases.ts';
import { type PfadVersion, pfadVersions } from '#firmware/versions.ts';
import { BadInput, readText, write } from './input.ts';
import { say } from './output.ts';

/** What the command line does with settings alone. */

const MAX_TOML_BYTES = 1_000_000;

function version(text: string): PfadVersion {
  if (isPfadVersion(text)) return text;
  throw new BadInput(`There is no Pfad ${text}; there are ${pfadVersions.join(', ')}. Nothing was done.`);
}

function readToml(file: string, of: PfadVersion): Record<string, SettingValue> {
  const parsed = settingsFromToml(catalogueOf(of), readText(file, MAX_TOML_BYTES));
  if (parsed.ok) return parsed.values;
  const faults = parsed.faults.map((f) => `line ${f.line}: ${f.why}`).join('\n  ');
  throw new BadInput(`${file} cannot be read as settings of Pfad ${of}. Nothing was done.\n  ${faults}`);
}

const bare = ['none', 'share', 'count'];
const list = (of: MigrationItem['from']) =>
  of
    .map((k) => `${k.key} = ${String(k.value)}${k.unit && !bare.includes(k.unit) ? ` ${k.unit}` : ''}`)
    .join(', ');

/** The report of a migration; exit code 1 when a person has to decide something. */
export function migrateFile(
  file: string,
  fromText: string,
  toText: string,
  json: boolean,
  out: string | undefined,
): number {
  const [from, to] = [version(fromText), version(toText)];
  const report = migrate(
    readToml(file, from),
    from,
    to,
    pathBetween(from, to)!,
    catalogueOf(from),
    catalogueOf(to),
  );
  if (out !== undefined)
    write('settings', out, settingsToToml(catalogueOf(to), report.values, `Pfad ${to}`), [file]);
  const open = report.items.filter((i) => i.kind === 'decide');
  if (json) say(`${JSON.stringify(report, null, 2)}\n`);
  else {
    for (const i of report.items) {
      if (i.kind === 'kept') continue;
      const change =
        i.from.length === 0
          ? list(i.to)
          : i.to.length === 0
            ? list(i.from)
            : `${list(i.from)} -> ${list(i.to)}`;
      say(`${i.kind.padEnd(9)} ${change}${i.formula ? `  (${i.formula})` : ''}\n`);
      if (i.why && i.kind !== 'new') say(`          ${i.why}\n`);
      if (i.decision) say(`          To decide: ${i.decision.options.join(', or ')}.\n`);
    }
    const kept = report.items.filter((i) => i.kind === 'kept').length;
    say(`${kept} kept as they are; ${open.length} to decide.\n`);
  }
  return open.length > 0 ? 1 : 0;
}

/** Settings of a craft file (with its waiting edits) or of a TOML file of any version. */
function readAny(file: string): Values {
  if (!file.toLowerCase().endsWith('.toml')) {
    const read = readCraftFile(readText(file, MAX_CRAFT_BYTES));
    if (!read.ok) throw new BadInput(`${file}: ${read.why}`);
    return { ...read.craft.settings, ...read.craft.edits };
  }
  const text = readText(file, MAX_TOML_BYTES);
  const newestFirst = [...pfadVersions].reverse();
  for (const v of ['3.2', ...newestFirst] as const) {
    const parsed = settingsFromToml(catalogueOf(v), text);
    if (parsed.ok) return parsed.values;
  }
  return readToml(file, '3.2');
}

/** Setting by setting what two files do not have alike; exit code 1 when there is anything. */
export function diff(fileA: string, fileB: string, json: boolean): number {
  const [a, b] = [readAny(fileA), readAny(fileB)];
  const found = compareSettings(a, b, catalogueOf('3.2'));
  if (json) {
    const rows = found.map(({ key, a: inA, b: inB, entry }) => ({
      key,
      a: inA ?? null,
      b: inB ?? null,
      label: entry?.label ?? null,
      unit: entry?.unit ?? null,
    }));
    say(`${JSON.stringify(rows, null, 2)}\n`);
  } else {
    const shown = (v: SettingValue | undefined) => (v === undefined ? '(not there)' : String(v));
    let group = '';
    for (const d of found) {
      const of = d.entry?.group ?? 'Known to no version';
      if (of !== group) {
        group = of;
        say(`${group}\n`);
      }
      const unit = d.entry && !bare.includes(d.entry.unit) ? ` ${d.entry.unit}` : '';
      say(`  ${d.key}: ${shown(d.a)} | ${shown(d.b)}${unit}\n`);
    }
    say(`${found.length === 0 ? 'No' : found.length} differences.\n`);
  }
  return found.length > 0 ? 1 : 0;
}
