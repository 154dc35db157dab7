/** Versions of Pfad there are, oldest first. The stand-in runs all of them on the control code of 3.2. */
export const pfadVersions = ['2.8', '3.0', '3.1', '3.2-rc1', '3.2'] as const;
export type PfadVersion = (typeof pfadVersions)[number];
/** The version whose catalogue is written out; the others follow from it by the migration tables. */
export const WRITTEN_VERSION: PfadVersion = '3.2';
