import { readFileSync } from 'node:fs';
import { type CraftFile, readCraftFile } from '#core/formats/craftFile.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';
import { readSiteFile } from '#core/site/siteFile.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';

type DemoName = 'turnstone' | 'turnstone-as-found' | 'avocet' | 'dunlin' | 'sandpiper' | 'knot' | 'ruff';

/** For tests: the shipped demo craft, complete settings, and the demo sites. */
export function demoCraft(name: DemoName): CraftFile {
  const read = readCraftFile(readFileSync(`demo/${name}.wanderweg.json`, 'utf8'));
  if (!read.ok) throw new Error(read.why);
  return read.craft;
}

export function demoValues(name: 'turnstone' | 'turnstone-as-found'): Values {
  return { ...pfadCatalogue.defaults(), ...demoCraft(name).settings };
}

function demoSite(name: 'torvholm' | 'skerrow'): Site {
  const read = readSiteFile(readFileSync(`demo/sites/${name}.wanderweg-site.json`, 'utf8'));
  if (!read.ok) throw new Error(read.why);
  return read.site;
}

export const torvholm = demoSite('torvholm');
export const skerrow = demoSite('skerrow');
