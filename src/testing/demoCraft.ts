import { readFileSync } from 'node:fs';
import { parseAsciiGrid } from '#core/formats/asciiGrid.ts';
import { type CraftFile, readCraftFile } from '#core/formats/craftFile.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';

/** For tests: the shipped demo craft, complete settings, and Torvholm's ground. */
export function demoCraft(name: 'turnstone' | 'turnstone-as-found'): CraftFile {
  const read = readCraftFile(readFileSync(`demo/${name}.wanderweg.json`, 'utf8'));
  if (!read.ok) throw new Error(read.why);
  return read.craft;
}

export function demoValues(name: 'turnstone' | 'turnstone-as-found'): Values {
  return { ...pfadCatalogue.defaults(), ...demoCraft(name).settings };
}

export const torvholm = parseAsciiGrid(readFileSync('demo/terrain/torvholm.asc', 'utf8'));
