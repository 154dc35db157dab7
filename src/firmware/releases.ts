import type { Catalogue, Values } from '#core/settings/catalogue.ts';
import { catalogueAcross } from '#core/settings/migration/across.ts';
import { migrate, pathBetween } from '#core/settings/migration/migrate.ts';
import { pfadCatalogue } from './catalogue.ts';
import { type PfadVersion, pfadVersions, WRITTEN_VERSION } from './versions.ts';

const catalogues = new Map<PfadVersion, Catalogue>([[WRITTEN_VERSION, pfadCatalogue]]);

export function isPfadVersion(version: string): version is PfadVersion {
  return (pfadVersions as readonly string[]).includes(version);
}

/** What a version can be told. */
export function catalogueOf(version: PfadVersion): Catalogue {
  const known = catalogues.get(version);
  if (known) return known;
  const made = pathBetween(WRITTEN_VERSION, version)!.reduce(
    (catalogue, { step, direction }) => catalogueAcross(catalogue, step, direction),
    pfadCatalogue,
  );
  catalogues.set(version, made);
  return made;
}

/** The settings a version holds, as the control code reads them. */
export function runningValues(version: PfadVersion, values: Values): Values {
  if (version === WRITTEN_VERSION) return values;
  const path = pathBetween(version, WRITTEN_VERSION)!;
  const { values: carried } = migrate(
    values,
    version,
    WRITTEN_VERSION,
    path,
    catalogueOf(version),
    pfadCatalogue,
  );
  return { ...pfadCatalogue.defaults(), ...carried };
}

/** All settings that a flight was flown by, of what its log tells; null where it does not, or of a firmware that is not known. */
export function settingsOfFlight(
  flownBy: { readonly firmware: string; readonly changed: Values } | null,
): Values | null {
  const version = flownBy?.firmware.replace(/^Pfad /, '');
  if (!flownBy || !version || !isPfadVersion(version)) return null;
  return runningValues(version, { ...catalogueOf(version).defaults(), ...flownBy.changed });
}
