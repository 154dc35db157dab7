import type { Finding } from '#core/findings/rule.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { startingValues } from '#core/settings/startingValues.ts';
import { sheetHtml } from '#core/sheet/sheet.ts';
import { groundOf, type Site } from '#core/site/site.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { walkOf } from './before.ts';
import { write } from './input.ts';
import { say } from './output.ts';

/** Writes everything of a set-up as a page of its own. @param file the craft's, which is never written over */
export function writeSheet(
  file: string,
  craft: CraftFile,
  values: Values,
  site: Site,
  findings: readonly Finding[],
  out: string,
): number {
  const { airframe, board } = craft;
  const now = new Date();
  const lines = walkOf(craft, values, site, findings, now);
  const html = sheetHtml({
    ...{ name: craft.name, airframe, board, values, lines, findings, now },
    catalogue: pfadCatalogue,
    starting: startingValues(airframe, groundOf(site)),
    ...{ site: craft.site ?? '', setup: craft.setup, notes: craft.notes, units: 'metric' },
  });
  write('sheet', out, html, [file]);
  say(`${craft.name}: written to ${out}, ${(html.length / 1000).toFixed(0)} kB.\n`);
  return 0;
}
