import { readdirSync } from 'node:fs';
import { basename } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { type RehearsalInput, rehearse } from '#bench/rehearsal.ts';
import { knownDescription } from '#core/board/boardRef.ts';
import { boardOf, boards } from '#core/board/boards.ts';
import { findAll } from '#core/findings/findings.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { type CraftFile, MAX_CRAFT_BYTES, readCraftFile } from '#core/formats/craftFile.ts';
import { readFlightLog } from '#core/formats/flightLog.ts';
import { REHEARSAL_START_MS, trackToGpx } from '#core/formats/gpx.ts';
import { luckOf, verdictWords } from '#core/formats/rehearsalResult.ts';
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
import { formatClock } from '#core/units/units.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { FlightLog } from '#firmware/flightLog.ts';
import { flyAnswer, showAnswers, showFilters } from './answers.ts';
import { showBefore } from './before.ts';
import { showFails } from './fails.ts';
import { inspectFirmware } from './firmware.ts';
import { BadInput, readBytes, readJson, readText, write } from './input.ts';
import { hearFile, learnFile } from './learn.ts';
import { showSpectrum, showStep } from './logs.ts';
import { complain, endQuietlyWhenNobodyReads, say } from './output.ts';
import { showReach, windOf } from './reach.ts';
import { checkRoute, problemsOfRoute } from './route.ts';
import { diff, migrateFile } from './settings.ts';
import { solveFile } from './solve.ts';
import { linkageFile, showMix, showSwitches } from './steer.ts';

const MAX_GRID_BYTES = 50_000_000;
const MAX_LOG_BYTES = 16_000_000;

const USAGE = `wanderweg check CRAFT.wanderweg.json [--json] [WHERE]
wanderweg before CRAFT.wanderweg.json [--json] [WHERE]
wanderweg rehearse CRAFT.wanderweg.json SCENARIO.json [--once] [--json] [--gpx FILE] [--log FILE] [WHERE]
wanderweg rehearse CRAFT.wanderweg.json SCENARIO.json --batch [--json] [WHERE]
wanderweg log FILE [--json]
wanderweg migrate FILE.toml --from VERSION --to VERSION [--json] [--out FILE.toml]
wanderweg diff A B [--json]        (craft files or settings as TOML)
wanderweg firmware inspect FILE.hex [--board TARGET] [--json]
wanderweg solve --board TARGET WISHES.json [--json]
wanderweg learn mounting|poses|level|compass|voltage|current SAMPLES.csv [--site FILE] [--json]
wanderweg hear BYTES.bin [--json]
wanderweg linkage LINKAGE.json [--json]
wanderweg mix CRAFT.wanderweg.json [--speed M_PER_S] [--json]
wanderweg switches CRAFT.wanderweg.json [--json]
wanderweg reach CRAFT.wanderweg.json [--wind M_PER_S@FROM] [--battery SHARE] [--reserve SHARE] [--height M] [--json] [WHERE]
wanderweg route check CRAFT.wanderweg.json ROUTE.geojson|gpx|kml [--wind M_PER_S@FROM] [--json] [WHERE]
wanderweg fails CRAFT.wanderweg.json [--wind M_PER_S@FROM] [--json] [WHERE]
wanderweg answers CRAFT.wanderweg.json [--axis roll|pitch|yaw] [--speed M_PER_S] [--json]
wanderweg answers CRAFT.wanderweg.json --axis roll|pitch|yaw --log FILE.csv [--json] [WHERE]
wanderweg filters CRAFT.wanderweg.json --at HZ,HZ,... [--json]
wanderweg step LOG|FILE.csv --axis roll|pitch|yaw [--map COLUMN=NAME_UNIT,...] [--craft CRAFT.wanderweg.json [--speed M_PER_S]] [--json]
wanderweg spectrum LOG|FILE.csv [--axis roll|pitch|yaw] [--map COLUMN=NAME_UNIT,...] [--json]
wanderweg serve [--port N] [--bench [--craft CRAFT.wanderweg.json] [--hands JSON]]
wanderweg board [CRAFT.wanderweg.json] [--socket PORT] [--hands JSON] [--loss PERCENT] [--delay MS]

WHERE: [--site FILE.wanderweg-site.json] [--terrain FILE.asc|FILE.hgt]; left out, the craft's own site where it is shipped
`;

/** Where it flies: the site's file, and ground to be taken instead of its own. */
interface Where {
  readonly site: string | undefined;
  readonly terrain: string | undefined;
}

/** Stands in for a home that the scenario does not tell, until the scenario is refused for it. */
const NOWHERE: Home = { lat: 0, lon: 0, heightM: 0 };
const DEMO_CRAFT = fileURLToPath(new URL('../../demo/turnstone-as-found.wanderweg.json', import.meta.url));
const SITES = fileURLToPath(new URL('../../demo/sites/', import.meta.url));

function siteIn(file: string): Site {
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
function siteOf(craft: CraftFile, where: Where, home: Home | null): Site | null {
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
function groundNotes(craft: CraftFile, site: Site | null): string[] {
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
function readCraft(file: string): { craft: CraftFile; values: Values; unknown: string[] } {
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
const findingsOf = (craft: CraftFile, values: Values, site: Site | null) =>
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

function before(file: string, json: boolean, where: Where): number {
  const { craft, values } = readCraft(file);
  const site = siteOf(craft, where, NOWHERE)!;
  const blocking = findingsOf(craft, values, site.terrain.known ? site : null).filter(
    (f) => f.severity === 'blocks',
  );
  return showBefore(
    craft,
    values,
    site,
    blocking.map((f) => `${f.title}.`),
    json,
  );
}

function check(file: string, json: boolean, where: Where): number {
  const { craft, values, unknown } = readCraft(file);
  const site = siteOf(craft, where, null);
  const findings = findingsOf(craft, values, site);
  const blocked = findings.some((f) => f.severity === 'blocks');
  if (json) {
    say(
      `${JSON.stringify({ craft: craft.name, blocksFlight: blocked, findings, unknownSettings: unknown }, null, 2)}\n`,
    );
  } else {
    for (const f of findings) {
      say(`${f.severity === 'blocks' ? 'blocks ' : 'caution'}  ${f.title}. ${f.why}\n`);
      if (f.fix) say(`         To put right: ${f.fix.label}.\n`);
    }
    for (const text of groundNotes(craft, site)) say(`note     ${text}\n`);
    for (const key of unknown)
      say(`note     ${key} is no setting of this firmware; it is kept in the file and not used.\n`);
    say(
      `${craft.name}: ${findings.length === 0 ? 'no findings' : findings.length === 1 ? '1 finding' : `${findings.length} findings`}${blocked ? ', flight is blocked' : ''}.\n`,
    );
  }
  return blocked ? 1 : 0;
}

/** Everything a rehearsal needs, from the two files. */
function readRehearsal(
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

/** Out to the north-east, as the demo flies. */
const FAILS_FLIGHT = {
  seed: 7,
  outbound: { bearingDeg: 50, distanceM: 2500, heightM: 120 },
  events: [],
  limitS: 1500,
};

/** What the board of a craft is made of. @throws BadInput where nobody knows */
function boardFor(craftFile: string, craft: CraftFile) {
  const board = boardOf(craft.board.target);
  if (board) return board;
  throw new BadInput(
    `${craftFile} is for a board "${craft.board.target}", which is not known here; there are ${boards.map((b) => b.target).join(', ')}. Nothing was flown.`,
  );
}

/** The site that a craft is flown at. @throws BadInput where it names none that is known here, and none is given */
function siteFor(craftFile: string, craft: CraftFile, where: Where): Site {
  const site = siteOf(craft, where, null);
  if (!site)
    throw new BadInput(
      `${craftFile} names no site that is known here. Give one with --site FILE.wanderweg-site.json. Nothing was done.`,
    );
  return site;
}

/** The batch in words: one line a strength, how many of each direction come home. */
async function flyBatch(
  craftFile: string,
  scenarioFile: string,
  json: boolean,
  where: Where,
): Promise<number> {
  const { input } = readRehearsal(craftFile, scenarioFile, where);
  const { rehearseBatch } = await import('./batch.ts');
  const tell = process.stderr.isTTY;
  const flights = await rehearseBatch(input, undefined, (done, total) => {
    if (tell) process.stderr.write(`\r${done} of ${total} flown`);
  });
  if (tell) complain('\n');
  const home = flights.filter((f) => f.verdict === 'home').length;
  if (json) say(`${JSON.stringify({ flights, home, total: flights.length })}\n`);
  else {
    const speeds = [...new Set(flights.map((f) => f.speedMps))];
    const directions = [...new Set(flights.map((f) => f.fromDeg))];
    say(`wind from  ${directions.map((d) => String(Math.round(d)).padStart(4)).join('')}\n`);
    for (const speed of speeds) {
      const cells = directions.map((d) => {
        const here = flights.filter((f) => f.speedMps === speed && f.fromDeg === d);
        return ` ${here.filter((f) => f.verdict === 'home').length}/${here.length}`;
      });
      say(`${String(speed).padStart(4)} m/s   ${cells.join('')}\n`);
    }
    say(`${home} of ${flights.length} come home.\n`);
  }
  return home === flights.length ? 0 : 1;
}

/** A board's flight log in words, or all of it as JSON. */
function showLog(file: string, json: boolean): number {
  const log = readFlightLog(readBytes(file, MAX_LOG_BYTES));
  if (!log) throw new BadInput(`${file} is no flight log. Nothing was read.`);
  if (json) {
    say(`${JSON.stringify(log)}\n`);
    return 0;
  }
  const clock = log.fields.indexOf('seconds');
  const begin = log.samples[0]?.[clock] ?? 0;
  const lasts = (log.samples.at(-1)?.[clock] ?? begin) - begin;
  say(
    `Flight ${log.flight} on ${log.firmware}: ${formatClock(lasts)}, ${log.samples.length} samples of ${log.fields.length} numbers.\n`,
  );
  for (const d of log.decisions) say(`  ${formatClock(Math.max(0, d.atS - begin))}  ${d.text}\n`);
  return 0;
}

async function fly(
  craftFile: string,
  scenarioFile: string,
  json: boolean,
  out: { readonly gpx: string | undefined; readonly log: string | undefined; readonly once: boolean },
  where: Where,
): Promise<number> {
  const { craft, input } = readRehearsal(craftFile, scenarioFile, where);
  const log = out.log === undefined ? null : new FlightLog();
  // The other seeds fly on threads of their own while this one flies here.
  const beside = out.once ? null : import('./batch.ts').then((m) => m.otherSeeds(input));
  const flown = rehearse(log ? { ...input, log } : input);
  const result = beside && flown.seconds > 0 ? { ...flown, others: await beside } : flown;
  const luck = luckOf(result);
  const read = [craftFile, scenarioFile, where.site, where.terrain];
  if (out.gpx !== undefined)
    write('track', out.gpx, trackToGpx(`${craft.name}, rehearsed`, result.track, REHEARSAL_START_MS), read);
  if (log && out.log !== undefined) {
    const last = log.list().at(-1);
    if (!last) throw new BadInput('The board logged nothing: its log rate is off, or it was never armed.');
    write('flight log', out.log, log.read(last.flight, 0, last.bytes)!, read);
  }
  if (json) say(`${JSON.stringify({ ...result, luck })}\n`);
  else {
    say(`${verdictWords[result.verdict]}. ${result.reason}\n`);
    if (luck) say(`${luck}\n`);
    for (const text of groundNotes(craft, input.site)) say(`  ${text}\n`);
    for (const edge of result.verdict === 'home' ? result.near : []) say(`  near an edge: ${edge}\n`);
    if (result.settings.length > 0) say(`  settings to look at: ${result.settings.join(', ')}\n`);
    for (const d of result.decisions) say(`  ${formatClock(Math.max(0, d.atS))}  ${d.text}\n`);
    for (const s of result.lostLink) say(`  ${formatClock(s.atS)}  link ${s.state}\n`);
    say(`  nearest ${result.closestM.toFixed(0)} m from home, ${result.usedWh.toFixed(1)} Wh used\n`);
    if (!craft.bench)
      say(
        '  The file does not say how the craft is built, so every output was taken to move as its settings say.\n',
      );
  }
  return result.verdict === 'home' ? 0 : 1;
}

/** An airspeed from the command line, m/s. */
function speedOf(text: string | undefined): number | undefined {
  if (text === undefined) return undefined;
  const speed = Number(text);
  if (!(speed >= 3 && speed <= 80))
    throw new BadInput(`--speed ${text} is no airspeed from 3 to 80 m/s. Nothing was done.`);
  return speed;
}

/** A bench with a craft on it, for every page that is served. */
async function sharedBench(craftFile: string | undefined, hands: string | undefined) {
  const { onBench, parseHands } = await import('./board.ts');
  const { BoardHost } = await import('#server/boardHost.ts');
  const { craft, values } = readCraft(craftFile ?? DEMO_CRAFT);
  const site = siteOf(craft, { site: undefined, terrain: undefined }, NOWHERE)!;
  return new BoardHost(onBench(craft, values, site), hands === undefined ? {} : parseHands(hands));
}

/** Runs the command line. @returns the exit code */
export async function main(argv: readonly string[]): Promise<number> {
  endQuietlyWhenNobodyReads();
  try {
    const { values, positionals } = parseArgs({
      args: [...argv],
      allowPositionals: true,
      options: {
        json: { type: 'boolean' },
        gpx: { type: 'string' },
        log: { type: 'string' },
        batch: { type: 'boolean' },
        once: { type: 'boolean' },
        bench: { type: 'boolean' },
        craft: { type: 'string' },
        hands: { type: 'string' },
        socket: { type: 'string' },
        loss: { type: 'string' },
        delay: { type: 'string' },
        terrain: { type: 'string' },
        site: { type: 'string' },
        port: { type: 'string' },
        from: { type: 'string' },
        to: { type: 'string' },
        out: { type: 'string' },
        board: { type: 'string' },
        speed: { type: 'string' },
        axis: { type: 'string' },
        at: { type: 'string' },
        map: { type: 'string' },
        wind: { type: 'string' },
        battery: { type: 'string' },
        reserve: { type: 'string' },
        height: { type: 'string' },
        help: { type: 'boolean', short: 'h' },
      },
    });
    const [command, ...files] = positionals;
    const where: Where = { site: values.site, terrain: values.terrain };
    if (values.help || command === undefined || command === 'help') {
      say(USAGE);
      return command === undefined && !values.help ? 2 : 0;
    }
    if (command === 'check' && files.length === 1) return check(files[0]!, values.json ?? false, where);
    if (command === 'before' && files.length === 1) return before(files[0]!, values.json ?? false, where);
    if (command === 'rehearse' && files.length === 2 && values.batch)
      return await flyBatch(files[0]!, files[1]!, values.json ?? false, where);
    if (command === 'rehearse' && files.length === 2)
      return await fly(
        files[0]!,
        files[1]!,
        values.json ?? false,
        { gpx: values.gpx, log: values.log, once: values.once ?? false },
        where,
      );
    if (command === 'log' && files.length === 1) return showLog(files[0]!, values.json ?? false);
    if (command === 'migrate' && files.length === 1 && values.from !== undefined && values.to !== undefined)
      return migrateFile(files[0]!, values.from, values.to, values.json ?? false, values.out);
    if (command === 'diff' && files.length === 2) return diff(files[0]!, files[1]!, values.json ?? false);
    if (command === 'firmware' && files.length === 2 && files[0] === 'inspect')
      return inspectFirmware(files[1]!, values.board, values.json ?? false);
    if (command === 'solve' && files.length === 1 && values.board !== undefined)
      return solveFile(files[0]!, values.board, values.json ?? false);
    if (command === 'learn' && files.length === 2)
      return learnFile(
        files[0]!,
        files[1]!,
        values.site === undefined ? null : siteIn(values.site),
        values.json ?? false,
      );
    if (command === 'hear' && files.length === 1) return hearFile(files[0]!, values.json ?? false);
    if (command === 'linkage' && files.length === 1) return linkageFile(files[0]!, values.json ?? false);
    if (command === 'mix' && files.length === 1) {
      const { craft, values: settings } = readCraft(files[0]!);
      return showMix(craft, settings, speedOf(values.speed), values.json ?? false);
    }
    if (command === 'answers' && files.length === 1) {
      const { craft, values: settings } = readCraft(files[0]!);
      if (values.log !== undefined) {
        const site = siteFor(files[0]!, craft, where);
        const { airframe } = craft;
        const truth = craft.bench ?? truthFromSettings(airframe, settings);
        const scenario = { ...FAILS_FLIGHT, home: site.home, wind: windOf(undefined) };
        const board = boardFor(files[0]!, craft);
        const input = { airframe, board, values: settings, truth, site, scenario };
        return flyAnswer(input, values.axis, values.log, values.json ?? false);
      }
      const how = { axis: values.axis, speed: speedOf(values.speed) };
      return showAnswers(craft, settings, how, values.json ?? false);
    }
    if (command === 'step' && files.length === 1)
      return showStep(
        files[0]!,
        { axis: values.axis, map: values.map, speed: speedOf(values.speed) },
        values.craft === undefined ? null : readCraft(values.craft),
        values.json ?? false,
      );
    if (command === 'spectrum' && files.length === 1)
      return showSpectrum(files[0]!, { axis: values.axis, map: values.map }, values.json ?? false);
    if (command === 'filters' && files.length === 1) {
      const { craft, values: settings } = readCraft(files[0]!);
      return showFilters(craft, settings, values.at, values.json ?? false);
    }
    if (command === 'switches' && files.length === 1) {
      const { craft, values: settings } = readCraft(files[0]!);
      return showSwitches(craft, settings, values.json ?? false);
    }
    if (command === 'reach' && files.length === 1) {
      const { craft, values: settings } = readCraft(files[0]!);
      return showReach(craft, settings, siteFor(files[0]!, craft, where), values, values.json ?? false);
    }
    if (command === 'route' && files[0] === 'check' && files.length === 3) {
      const { craft, values: settings } = readCraft(files[1]!);
      const site = siteFor(files[1]!, craft, where);
      return checkRoute(craft, settings, site, files[2]!, values, values.json ?? false);
    }
    if (command === 'fails' && files.length === 1) {
      const { craft, values: settings } = readCraft(files[0]!);
      const site = siteFor(files[0]!, craft, where);
      const wind = windOf(values.wind);
      const truth = craft.bench ?? truthFromSettings(craft.airframe, settings);
      const scenario = { ...FAILS_FLIGHT, home: site.home, wind };
      const fences = craft.plan?.fences;
      const world = { airframe: craft.airframe, values: settings, truth, site, scenario, fences };
      return await showFails(world, boardFor(files[0]!, craft), values.json ?? false);
    }
    if (command === 'serve' && files.length === 0) {
      const { serve } = await import('#server/serve.ts');
      const bench = values.bench ? await sharedBench(values.craft, values.hands) : null;
      return await serve(values.port ?? process.env.PORT, bench);
    }
    if (command === 'board' && files.length <= 1) {
      const { onBench, runBoard } = await import('./board.ts');
      const { craft, values: settings } = readCraft(files[0] ?? DEMO_CRAFT);
      const site = siteOf(craft, where, NOWHERE)!;
      return await runBoard(onBench(craft, settings, site), values);
    }
    complain(USAGE);
    return 2;
  } catch (error) {
    if (error instanceof BadInput || (error as NodeJS.ErrnoException).code?.startsWith('ERR_PARSE_ARGS')) {
      complain(`${(error as Error).message}\n`);
      return 2;
    }
    throw error;
  }
}
