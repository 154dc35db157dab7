import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { truthFromSettings } from '#core/formats/benchTruth.ts';
import { flyAnswer, showAnswers, showFilters } from './answers.ts';
import { showBefore } from './before.ts';
import {
  boardFor,
  findingsOf,
  groundNotes,
  NOWHERE,
  readCraft,
  siteFor,
  siteIn,
  siteOf,
  type Where,
} from './craftInput.ts';
import { showFails } from './fails.ts';
import { inspectFirmware } from './firmware.ts';
import { showLog } from './flownLog.ts';
import { BadInput } from './input.ts';
import { hearFile, learnFile } from './learn.ts';
import { showSpectrum, showStep } from './logs.ts';
import { complain, endQuietlyWhenNobodyReads, say } from './output.ts';
import { showOverlay } from './overlay.ts';
import { showReach, windOf } from './reach.ts';
import { fly, flyBatch } from './rehearse.ts';
import { checkRoute } from './route.ts';
import { showSearch } from './search.ts';
import { diff, migrateFile } from './settings.ts';
import { writeSheet } from './sheet.ts';
import { solveFile } from './solve.ts';
import { linkageFile, showMix, showSwitches } from './steer.ts';
import { showTold } from './told.ts';

const USAGE = `wanderweg check CRAFT.wanderweg.json [--json] [WHERE]
wanderweg before CRAFT.wanderweg.json [--json] [WHERE]
wanderweg overlay CRAFT.wanderweg.json [--system analogue-625|analogue-525|ouzel|dipper] [--json]
wanderweg rehearse CRAFT.wanderweg.json SCENARIO.json [--once] [--json] [--gpx FILE] [--log FILE] [WHERE]
wanderweg rehearse CRAFT.wanderweg.json SCENARIO.json --batch [--json] [WHERE]
wanderweg log LOG|TRACK [--craft CRAFT.wanderweg.json] [--with LOG|TRACK] [--out FILE.gpx|kml|geojson|csv] [--json] [WHERE]
wanderweg telemetry CRAFT.wanderweg.json [--json]
wanderweg sheet CRAFT.wanderweg.json --out FILE.html [WHERE]
wanderweg search LOG|TRACK --craft CRAFT.wanderweg.json [--json] [WHERE]
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

const DEMO_CRAFT = fileURLToPath(new URL('../../demo/turnstone-as-found.wanderweg.json', import.meta.url));

/** A craft with its settings, its site, and what is found wrong; beyond its known ground nothing is found about it. */
function lookedOver(file: string, where: Where) {
  const { craft, values } = readCraft(file);
  const site = siteOf(craft, where, NOWHERE)!;
  return { craft, values, site, findings: findingsOf(craft, values, site.terrain.known ? site : null) };
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

/** Out to the north-east, as the demo flies. */
const FAILS_FLIGHT = {
  seed: 7,
  outbound: { bearingDeg: 50, distanceM: 2500, heightM: 120 },
  events: [],
  limitS: 1500,
};

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
        system: { type: 'string' },
        at: { type: 'string' },
        map: { type: 'string' },
        with: { type: 'string' },
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
    if (command === 'before' && files.length === 1) {
      const { craft, values: settings, site, findings } = lookedOver(files[0]!, where);
      return showBefore(craft, settings, site, findings, values.json ?? false);
    }
    if (command === 'sheet' && files.length === 1 && values.out !== undefined) {
      const { craft, values: settings, site, findings } = lookedOver(files[0]!, where);
      return writeSheet(files[0]!, craft, settings, site, findings, values.out);
    }
    if (command === 'telemetry' && files.length === 1) {
      const { craft, values: settings } = readCraft(files[0]!);
      return showTold(craft, settings, values.json ?? false);
    }
    if (command === 'overlay' && files.length === 1) {
      const { craft, values: settings } = readCraft(files[0]!);
      return showOverlay(craft, settings, values.system, values.json ?? false);
    }
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
    if (command === 'log' && files.length === 1)
      return showLog(
        files[0]!,
        { craft: values.craft, with: values.with, out: values.out, where },
        values.json ?? false,
      );
    if (command === 'search' && files.length === 1 && values.craft !== undefined) {
      const { craft, values: settings } = readCraft(values.craft);
      return showSearch(
        files[0]!,
        craft,
        settings,
        siteFor(values.craft, craft, where),
        values.json ?? false,
      );
    }
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
