import type { Catalogue, Values } from '#core/settings/catalogue.ts';
import { catalogueAcross } from '#core/settings/migration/across.ts';
import { migrate, pathBetween } from '#core/settings/migration/migrate.ts';
import { pfadCatalogue } from './catalogue.ts';

/** Versions of Pfad there are, oldest first. The stand-in runs all of them on the control code of 3.1. */
export const pfadVersions = ['2.8', '3.0', '3.1', '3.2-rc1'] as const;
export type PfadVersion = (typeof pfadVersions)[number];
/** The version whose catalogue is written out; the others follow from it by the migration tables. */
export const WRITTEN_VERSION: PfadVersion = '3.1';

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
