import { readdirSync } from 'node:fs';
import { basename } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { RehearsalInput } from '#bench/rehearsal.ts';
import { knownDescription } from '#core/board/boardRef.ts';
import { boardOf, boards } from '#core/board/boards.ts';
import { findAll } from '#core/findings/findings.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { type CraftFile, MAX_CRAFT_BYTES, readCraftFile } from '#core/formats/craftFile.ts';
import { parseScenario } from '#core/formats/scenario.ts';
import { parsed } from '#core/parsed.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { parseAsciiGrid } from '#core/site/asciiGrid.ts';
import { parseHgt } from '#core/site/hgt.ts';
import {
  bareSite,
  fieldYear,
  GROUND_UNKNOWN,
  groundOf,
  type Home,
  homeSchema,
  makeSite,
  type Site,
} from '#core/site/site.ts';
import { MAX_SITE_BYTES, readSiteFile } from '#core/site/siteFile.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { BadInput, readBytes, readJson, readText } from './input.ts';
import { problemsOfRoute } from './route.ts';

/** What the command line reads of craft, sites and flights, whole and checked, or refused in a sentence. */

const MAX_GRID_BYTES = 50_000_000;

/** Where it flies: the site's file, and ground to be taken instead of its own. */
export interface Where {
  readonly site: string | undefined;
  readonly terrain: string | undefined;
}

/** Stands in for a home that the scenario does not tell, until the scenario is refused for it. */
export const NOWHERE: Home = { lat: 0, lon: 0, heightM: 0 };
const SITES = fileURLToPath(new URL('../../demo/sites/', import.meta.url));

export function siteIn(file: string): Site {
  const read = readSiteFile(readText(file, MAX_SITE_BYTES));
  if (!read.ok) throw new BadInput(`${file}: ${read.why}`);
  return read.site;
}

/** The site of a craft among those that are shipped; null when it names none, or one that is not known here. */
function shippedSite(name: string | undefined): Site | null {
  if (name === undefined) return null;
  for (const file of readdirSync(SITES)) {
    const site = siteIn(`${SITES}${file}`);
    if (site.name === name) return site;
  }
  return null;
}

/** The site of a file, or that of the craft, with the ground of a grid or tile where one is given; null for none. */
export function siteOf(craft: CraftFile, where: Where, home: Home | null): Site | null {
  let site = where.site === undefined ? shippedSite(craft.site) : siteIn(where.site);
  if (!site && home) site = bareSite(home, fieldYear(Date.now()));
  const ground = where.terrain;
  if (!site || ground === undefined) return site;
  const { bare, terrain, ...fields } = site;
  // Grids in metres are counted from where the site's own ground is.
  const about = bare.known ? bare.origin : site.home;
  try {
    const bytes = () => readBytes(ground, MAX_GRID_BYTES);
    return makeSite(
      fields,
      ground.toLowerCase().endsWith('.hgt')
        ? parseHgt([{ name: basename(ground), bytes: bytes() }], about)
        : parseAsciiGrid(readText(ground, MAX_GRID_BYTES), about),
    );
  } catch (error) {
    if (error instanceof BadInput) throw error;
    throw new BadInput(
      `${ground} cannot be used as terrain: ${(error as Error).message}. Nothing was flown.`,
    );
  }
}

/** What is to be said of the ground where it is not known. */
export function groundNotes(craft: CraftFile, site: Site | null): string[] {
  if (site?.terrain.known) return [];
  const named =
    craft.site !== undefined && site?.name !== craft.site
      ? [
          `The craft is set up for the site ${craft.site}, which is not known here; give its file with --site.`,
        ]
      : [];
  return [...named, GROUND_UNKNOWN];
}

/** The craft with its settings complete: drafted edits over what the board held over defaults. */
export function readCraft(file: string): { craft: CraftFile; values: Values; unknown: string[] } {
  const read = readCraftFile(readText(file, MAX_CRAFT_BYTES));
  if (!read.ok) throw new BadInput(`${file}: ${read.why}`);
  const given = { ...read.craft.settings, ...read.craft.edits };
  const unknown = Object.keys(given).filter((k) => !pfadCatalogue.entry(k));
  const known = Object.fromEntries(Object.entries(given).filter(([k]) => pfadCatalogue.entry(k)));
  for (const [key, value] of Object.entries(known)) {
    const refusal = pfadCatalogue.checkValue(key, value);
    if (refusal) throw new BadInput(`${file}: setting ${key}: ${refusal.why} Nothing was done.`);
  }
  return { craft: read.craft, values: { ...pfadCatalogue.defaults(), ...known }, unknown };
}

/** Everything that the rules find on a craft as its file says. */
export const findingsOf = (craft: CraftFile, values: Values, site: Site | null) =>
  findAll({
    airframe: craft.airframe,
    values,
    catalogue: pfadCatalogue,
    description: knownDescription(craft.board) ?? undefined,
    ground: site ? groundOf(site) : undefined,
    site: site ?? undefined,
    wiring: craft.wiring,
    transmitter: craft.transmitter,
    plan: craft.plan,
    routeProblems: site ? problemsOfRoute(craft, values, site, craft.plan) : undefined,
  });

/** Everything a rehearsal needs, from the two files. */
export function readRehearsal(
  craftFile: string,
  scenarioFile: string,
  where: Where,
): { craft: CraftFile; input: RehearsalInput } {
  const { craft, values } = readCraft(craftFile);
  const raw = readJson(scenarioFile, 1_000_000, 'Nothing was flown.');
  const home = parsed(homeSchema, (raw as { home?: unknown } | null)?.home);
  const site = siteOf(craft, where, home.success ? home.data : NOWHERE);
  const flight = parseScenario(raw, site!);
  if (!flight.ok) throw new BadInput(`${scenarioFile}: ${flight.why}`);
  const refusals = pfadCatalogue.check(values);
  if (refusals.length > 0)
    throw new BadInput(
      `${craftFile}: the board would refuse these settings: ${refusals[0]!.why} Nothing was flown.`,
    );
  const board = boardFor(craftFile, craft);
  const truth = craft.bench ?? truthFromSettings(craft.airframe, values);
  return {
    craft,
    input: {
      ...{ airframe: craft.airframe, board, values, truth, site: site!, plan: craft.plan },
      scenario: flight.scenario,
    },
  };
}

/** What the board of a craft is made of. @throws BadInput where nobody knows */
export function boardFor(craftFile: string, craft: CraftFile) {
  const board = boardOf(craft.board.target);
  if (board) return board;
  throw new BadInput(
    `${craftFile} is for a board "${craft.board.target}", which is not known here; there are ${boards.map((b) => b.target).join(', ')}. Nothing was flown.`,
  );
}

/** The site that a craft is flown at. @throws BadInput where it names none that is known here, and none is given */
export function siteFor(craftFile: string, craft: CraftFile, where: Where): Site {
  const site = siteOf(craft, where, null);
  if (!site)
    throw new BadInput(
      `${craftFile} names no site that is known here. Give one with --site FILE.wanderweg-site.json. Nothing was done.`,
    );
  return site;
}
