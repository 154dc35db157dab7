import { readFileSync } from 'node:fs';
import { basename } from 'node:path';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { type RehearsalInput, rehearse } from '#bench/rehearsal.ts';
import { knownDescription } from '#core/board/boardRef.ts';
import { boardOf, boards } from '#core/board/boards.ts';
import { findAll } from '#core/findings/findings.ts';
import type { Terrain } from '#core/flight/terrain.ts';
import { parseAsciiGrid } from '#core/formats/asciiGrid.ts';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { type CraftFile, MAX_CRAFT_BYTES, readCraftFile } from '#core/formats/craftFile.ts';
import { readFlightLog } from '#core/formats/flightLog.ts';
import { REHEARSAL_START_MS, trackToGpx } from '#core/formats/gpx.ts';
import { parseHgt } from '#core/formats/hgt.ts';
import { luckOf, verdictWords } from '#core/formats/rehearsalResult.ts';
import { MOSSVIK, parseScenario, TORVHOLM } from '#core/formats/scenario.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { formatClock } from '#core/units/units.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { FlightLog } from '#firmware/flightLog.ts';
import { inspectFirmware } from './firmware.ts';
import { BadInput, readBytes, readText, write } from './input.ts';
import { diff, migrateFile } from './settings.ts';
import { solveFile } from './solve.ts';

const MAX_GRID_BYTES = 50_000_000;
const MAX_LOG_BYTES = 16_000_000;

const USAGE = `wanderweg check CRAFT.wanderweg.json [--json]
wanderweg rehearse CRAFT.wanderweg.json SCENARIO.json [--once] [--json] [--gpx FILE] [--log FILE] [--terrain FILE.asc|FILE.hgt]
wanderweg rehearse CRAFT.wanderweg.json SCENARIO.json --batch [--json] [--terrain FILE.asc|FILE.hgt]
wanderweg log FILE [--json]
wanderweg migrate FILE.toml --from VERSION --to VERSION [--json] [--out FILE.toml]
wanderweg diff A B [--json]        (craft files or settings as TOML)
wanderweg firmware inspect FILE.hex [--board TARGET] [--json]
wanderweg solve --board TARGET WISHES.json [--json]
wanderweg serve [--port N]
`;

/** Ground to fly over: Torvholm as shipped, or a grid or tile of the same place. */
function terrain(file?: string): Terrain {
  if (file !== undefined) {
    try {
      return file.toLowerCase().endsWith('.hgt')
        ? parseHgt(basename(file), readBytes(file, MAX_GRID_BYTES), TORVHOLM, 60, 6000)
        : parseAsciiGrid(readText(file, MAX_GRID_BYTES));
    } catch (error) {
      if (error instanceof BadInput) throw error;
      throw new BadInput(
        `${file} cannot be used as terrain: ${(error as Error).message}. Nothing was flown.`,
      );
    }
  }
  return parseAsciiGrid(
    readFileSync(fileURLToPath(new URL('../../demo/terrain/torvholm.asc', import.meta.url)), 'utf8'),
  );
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

function check(file: string, json: boolean): number {
  const { craft, values, unknown } = readCraft(file);
  const ground = {
    terrain: terrain(),
    homeEastM: eastOf(TORVHOLM.lat, TORVHOLM.lon, MOSSVIK.lon),
    homeNorthM: northOf(TORVHOLM.lat, MOSSVIK.lat),
  };
  const findings = findAll({
    airframe: craft.airframe,
    values,
    catalogue: pfadCatalogue,
    description: knownDescription(craft.board) ?? undefined,
    ground,
    wiring: craft.wiring,
  });
  const blocked = findings.some((f) => f.severity === 'blocks');
  if (json) {
    process.stdout.write(
      `${JSON.stringify({ craft: craft.name, blocksFlight: blocked, findings, unknownSettings: unknown }, null, 2)}\n`,
    );
  } else {
    for (const f of findings) {
      process.stdout.write(`${f.severity === 'blocks' ? 'blocks ' : 'caution'}  ${f.title}. ${f.why}\n`);
      if (f.fix) process.stdout.write(`         To put right: ${f.fix.label}.\n`);
    }
    for (const key of unknown)
      process.stdout.write(
        `note     ${key} is no setting of this firmware; it is kept in the file and not used.\n`,
      );
    process.stdout.write(
      `${craft.name}: ${findings.length === 0 ? 'no findings' : findings.length === 1 ? '1 finding' : `${findings.length} findings`}${blocked ? ', flight is blocked' : ''}.\n`,
    );
  }
  return blocked ? 1 : 0;
}

/** Everything a rehearsal needs, from the two files. */
function readRehearsal(
  craftFile: string,
  scenarioFile: string,
  terrainFile: string | undefined,
): { craft: CraftFile; input: RehearsalInput } {
  const { craft, values } = readCraft(craftFile);
  let raw: unknown;
  try {
    raw = JSON.parse(readText(scenarioFile, 1_000_000));
  } catch (error) {
    if (error instanceof BadInput) throw error;
    throw new BadInput(`${scenarioFile} is not JSON. Nothing was flown.`);
  }
  const ground = terrain(terrainFile);
  const parsed = parseScenario(raw, ground);
  if (!parsed.ok) throw new BadInput(`${scenarioFile}: ${parsed.why}`);
  const refusals = pfadCatalogue.check(values);
  if (refusals.length > 0)
    throw new BadInput(
      `${craftFile}: the board would refuse these settings: ${refusals[0]!.why} Nothing was flown.`,
    );
  const board = boardOf(craft.board.target);
  if (!board)
    throw new BadInput(
      `${craftFile} is for a board "${craft.board.target}", which is not known here; there are ${boards.map((b) => b.target).join(', ')}. Nothing was flown.`,
    );
  const truth = craft.bench ?? truthFromSettings(craft.airframe, values);
  return {
    craft,
    input: { airframe: craft.airframe, board, values, truth, scenario: parsed.scenario, terrain: ground },
  };
}

/** The batch in words: one line a strength, how many of each direction come home. */
async function flyBatch(
  craftFile: string,
  scenarioFile: string,
  json: boolean,
  terrainFile: string | undefined,
): Promise<number> {
  const { input } = readRehearsal(craftFile, scenarioFile, terrainFile);
  const { rehearseBatch } = await import('./batch.ts');
  const tell = process.stderr.isTTY;
  const flights = await rehearseBatch(input, undefined, (done, total) => {
    if (tell) process.stderr.write(`\r${done} of ${total} flown`);
  });
  if (tell) process.stderr.write('\n');
  const home = flights.filter((f) => f.verdict === 'home').length;
  if (json) process.stdout.write(`${JSON.stringify({ flights, home, total: flights.length })}\n`);
  else {
    const speeds = [...new Set(flights.map((f) => f.speedMps))];
    const directions = [...new Set(flights.map((f) => f.fromDeg))];
    process.stdout.write(`wind from  ${directions.map((d) => String(Math.round(d)).padStart(4)).join('')}\n`);
    for (const speed of speeds) {
      const cells = directions.map((d) => {
        const here = flights.filter((f) => f.speedMps === speed && f.fromDeg === d);
        return ` ${here.filter((f) => f.verdict === 'home').length}/${here.length}`;
      });
      process.stdout.write(`${String(speed).padStart(4)} m/s   ${cells.join('')}\n`);
    }
    process.stdout.write(`${home} of ${flights.length} come home.\n`);
  }
  return home === flights.length ? 0 : 1;
}

/** A board's flight log in words, or all of it as JSON. */
function showLog(file: string, json: boolean): number {
  const log = readFlightLog(readBytes(file, MAX_LOG_BYTES));
  if (!log) throw new BadInput(`${file} is no flight log. Nothing was read.`);
  if (json) {
    process.stdout.write(`${JSON.stringify(log)}\n`);
    return 0;
  }
  const clock = log.fields.indexOf('seconds');
  const begin = log.samples[0]?.[clock] ?? 0;
  const lasts = (log.samples.at(-1)?.[clock] ?? begin) - begin;
  process.stdout.write(
    `Flight ${log.flight} on ${log.firmware}: ${formatClock(lasts)}, ${log.samples.length} samples of ${log.fields.length} numbers.\n`,
  );
  for (const d of log.decisions)
    process.stdout.write(`  ${formatClock(Math.max(0, d.atS - begin))}  ${d.text}\n`);
  return 0;
}

async function fly(
  craftFile: string,
  scenarioFile: string,
  json: boolean,
  out: { readonly gpx: string | undefined; readonly log: string | undefined; readonly once: boolean },
  terrainFile: string | undefined,
): Promise<number> {
  const { craft, input } = readRehearsal(craftFile, scenarioFile, terrainFile);
  const log = out.log === undefined ? null : new FlightLog();
  // The other seeds fly on threads of their own while this one flies here.
  const beside = out.once ? null : import('./batch.ts').then((m) => m.otherSeeds(input));
  const flown = rehearse(log ? { ...input, log } : input);
  const result = beside && flown.seconds > 0 ? { ...flown, others: await beside } : flown;
  const luck = luckOf(result);
  if (out.gpx !== undefined)
    write('track', out.gpx, trackToGpx(`${craft.name}, rehearsed`, result.track, REHEARSAL_START_MS));
  if (log && out.log !== undefined) {
    const last = log.list().at(-1);
    if (!last) throw new BadInput('The board logged nothing: its log rate is off, or it was never armed.');
    write('flight log', out.log, log.read(last.flight, 0, last.bytes)!);
  }
  if (json) process.stdout.write(`${JSON.stringify({ ...result, luck })}\n`);
  else {
    process.stdout.write(`${verdictWords[result.verdict]}. ${result.reason}\n`);
    if (luck) process.stdout.write(`${luck}\n`);
    for (const edge of result.verdict === 'home' ? result.near : [])
      process.stdout.write(`  near an edge: ${edge}\n`);
    if (result.settings.length > 0)
      process.stdout.write(`  settings to look at: ${result.settings.join(', ')}\n`);
    for (const d of result.decisions)
      process.stdout.write(`  ${formatClock(Math.max(0, d.atS))}  ${d.text}\n`);
    for (const s of result.lostLink) process.stdout.write(`  ${formatClock(s.atS)}  link ${s.state}\n`);
    process.stdout.write(
      `  nearest ${result.closestM.toFixed(0)} m from home, ${result.usedWh.toFixed(1)} Wh used\n`,
    );
    if (!craft.bench)
      process.stdout.write(
        '  The file does not say how the craft is built, so every output was taken to move as its settings say.\n',
      );
  }
  return result.verdict === 'home' ? 0 : 1;
}

/** Runs the command line. @returns the exit code */
export async function main(argv: readonly string[]): Promise<number> {
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
        terrain: { type: 'string' },
        port: { type: 'string' },
        from: { type: 'string' },
        to: { type: 'string' },
        out: { type: 'string' },
        board: { type: 'string' },
        help: { type: 'boolean', short: 'h' },
      },
    });
    const [command, ...files] = positionals;
    if (values.help || command === undefined || command === 'help') {
      process.stdout.write(USAGE);
      return command === undefined && !values.help ? 2 : 0;
    }
    if (command === 'check' && files.length === 1) return check(files[0]!, values.json ?? false);
    if (command === 'rehearse' && files.length === 2 && values.batch)
      return await flyBatch(files[0]!, files[1]!, values.json ?? false, values.terrain);
    if (command === 'rehearse' && files.length === 2)
      return await fly(
        files[0]!,
        files[1]!,
        values.json ?? false,
        { gpx: values.gpx, log: values.log, once: values.once ?? false },
        values.terrain,
      );
    if (command === 'log' && files.length === 1) return showLog(files[0]!, values.json ?? false);
    if (command === 'migrate' && files.length === 1 && values.from !== undefined && values.to !== undefined)
      return migrateFile(files[0]!, values.from, values.to, values.json ?? false, values.out);
    if (command === 'diff' && files.length === 2) return diff(files[0]!, files[1]!, values.json ?? false);
    if (command === 'firmware' && files.length === 2 && files[0] === 'inspect')
      return inspectFirmware(files[1]!, values.board, values.json ?? false);
    if (command === 'solve' && files.length === 1 && values.board !== undefined)
      return solveFile(files[0]!, values.board, values.json ?? false);
    if (command === 'serve' && files.length === 0) {
      const { serve } = await import('#server/serve.ts');
      return await serve(values.port ?? process.env.PORT);
    }
    process.stderr.write(USAGE);
    return 2;
  } catch (error) {
    if (error instanceof BadInput || (error as NodeJS.ErrnoException).code?.startsWith('ERR_PARSE_ARGS')) {
      process.stderr.write(`${(error as Error).message}\n`);
      return 2;
    }
    throw error;
  }
}
