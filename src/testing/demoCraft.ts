import { readFileSync } from 'node:fs';
import { boardOf } from '#core/board/boards.ts';
import { type CraftFile, readCraftFile } from '#core/formats/craftFile.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { Site } from '#core/site/site.ts';
import { readSiteFile } from '#core/site/siteFile.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';

export type DemoName =
  | 'turnstone'
  | 'turnstone-as-found'
  | 'avocet'
  | 'dunlin'
  | 'sandpiper'
  | 'knot'
  | 'ruff';

/** For tests: the shipped demo craft, complete settings, and the demo sites. */
export function demoCraft(name: DemoName): CraftFile {
  const read = readCraftFile(readFileSync(`demo/${name}.wanderweg.json`, 'utf8'));
  if (!read.ok) throw new Error(read.why);
  return read.craft;
}

export function demoValues(name: 'turnstone' | 'turnstone-as-found'): Values {
  return { ...pfadCatalogue.defaults(), ...demoCraft(name).settings };
}

/**
 * For tests and measurements of flight: the craft, its board, complete settings, and the craft as it truly is but for a
 * compass that was taught (the demo's multirotor has its own over the battery lead, and does not come home until then).
 */
export function flyableDemo(name: DemoName) {
  const { airframe, board, settings, bench } = demoCraft(name);
  return {
    airframe,
    board: boardOf(board.target)!,
    values: { ...pfadCatalogue.defaults(), ...settings } as Values,
    truth: { ...bench!, iron: { x: 0, y: 0, z: 0, perAmp: 0 } },
  };
}

function demoSite(name: 'torvholm' | 'skerrow'): Site {
  const read = readSiteFile(readFileSync(`demo/sites/${name}.wanderweg-site.json`, 'utf8'));
  if (!read.ok) throw new Error(read.why);
  return read.site;
}

export const torvholm = demoSite('torvholm');
export const skerrow = demoSite('skerrow');
