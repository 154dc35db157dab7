/** Freezes what a released version of Pfad can be told, once and for good: `npm run freeze -- 3.2`. */
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { catalogueOf, isPfadVersion } from '../src/firmware/releases.ts';
import { pfadVersions } from '../src/firmware/versions.ts';

const version = process.argv[2] ?? '';
const file = `docs/catalogues/pfad-${version}.json`;
if (!isPfadVersion(version)) {
  process.stderr.write(
    `There is no Pfad "${version}"; there are ${pfadVersions.join(', ')}. Nothing was written.\n`,
  );
  process.exit(2);
}
if (existsSync(file)) {
  process.stderr.write(`${file} is there: a released version does not change. Nothing was written.\n`);
  process.exit(2);
}
const { entries, rules } = catalogueOf(version);
mkdirSync('docs/catalogues', { recursive: true });
writeFileSync(file, `${JSON.stringify({ version, entries, rules }, null, 1)}\n`);
