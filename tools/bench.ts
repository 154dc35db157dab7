import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { Session } from 'node:inspector/promises';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { chanceLoss, type Hardship } from '../src/bench/chanceLoss.ts';
import { Rehearsal, type RehearsalInput } from '../src/bench/rehearsal.ts';
import { flyAll, rehearseBatch } from '../src/cli/batch.ts';
import { turnstone } from '../src/core/airframe/library.ts';
import { stepFromLog } from '../src/core/analysis/stepResponse.ts';
import { massifH7A, massifH7B } from '../src/core/board/boards.ts';
import { solve } from '../src/core/board/solve.ts';
import { outputKinds, wishesSchema } from '../src/core/board/wishes.ts';
import { failScenario } from '../src/core/fails/failTable.ts';
import { pairsOf } from '../src/core/fails/prints.ts';
import { Plant } from '../src/core/flight/plant.ts';
import { groundAbout } from '../src/core/flight/terrain.ts';
import { groundUnder } from '../src/core/flown/flown.ts';
import { openFlown } from '../src/core/flown/openFlown.ts';
import { seriesOf } from '../src/core/flown/series.ts';
import { figuresOf } from '../src/core/flown/summary.ts';
import { surprisesOf } from '../src/core/flown/surprises.ts';
import { readHex, writeHex } from '../src/core/formats/intelHex.ts';
import { parseScenario } from '../src/core/formats/scenario.ts';
import { Random } from '../src/core/math/random.ts';
import { switchedModes } from '../src/core/modes/modes.ts';
import { enumerate } from '../src/core/modes/switchMap.ts';
import { routeWay } from '../src/core/plan/routeWay.ts';
import { homeMarch, planOf, reachMap } from '../src/core/reach/reachMap.ts';
import { fallingCraft } from '../src/core/search/fallingCraft.ts';
import { flyEndings, likelihoodOf } from '../src/core/search/likelihood.ts';
import type { Values } from '../src/core/settings/catalogue.ts';
import { benchRig, meet } from '../src/testing/benchRig.ts';
import { type DemoName, flyableDemo, torvholm } from '../src/testing/demoCraft.ts';
import { longLog } from '../src/testing/longLog.ts';
import { pointAt, routeOf } from '../src/testing/plans.ts';
import {
  idlePercent,
  inPage,
  keepMs,
  legChangeMs,
  overlayFps,
  plots,
  reachDragMs,
  scrub,
  telemetryMs,
} from './benchInPage.ts';
import { energyTruth } from './energyTruth.ts';
import { reachTruth } from './reachTruth.ts';
import { searchTruth } from './searchTruth.ts';
import { tuningTruth } from './tuningTruth.ts';
import type { Yardstick } from './yardstick/yardstick.ts';

const RETURNS = 200;

interface Figure {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  readonly budget: number;
  readonly better: 'higher' | 'lower';
}

const say = (text: string) => process.stderr.write(`${text}\n`);

const setUp = (name: DemoName): Omit<RehearsalInput, 'scenario'> => ({
  ...flyableDemo(name),
  site: torvholm,
});

const ALL_CRAFT = ['turnstone', 'sandpiper', 'dunlin', 'knot', 'avocet', 'ruff'] as const;

function flight(name: DemoName = 'turnstone', change: Values = {}): Rehearsal {
  const scenario = parseScenario(
    {
      seed: 3,
      home: { lat: 61.883, lon: -12.43, heightM: 38 },
      wind: { speedMps: 6, fromDeg: 230, gustMps: 1 },
      outbound: { bearingDeg: 50, distanceM: 2500, heightM: 120 },
      limitS: 4000,
    },
    torvholm,
  );
  if (!scenario.ok) throw new Error(scenario.why);
  const set = setUp(name);
  return new Rehearsal({ ...set, values: { ...set.values, ...change }, scenario: scenario.scenario });
}

/**
 * The median of five processes: where the compiler puts its code differs from one to the next, and matters by a fifth.
 * In each the step is compiled for this craft alone, as the C is.
 */
function plantAgainstC(): Yardstick | null {
  const goes = Array.from({ length: 5 }, () => {
    const out = execFileSync(process.execPath, ['tools/yardstick/run.mjs'], { encoding: 'utf8' });
    return JSON.parse(out) as Yardstick | null;
  });
  const measured = goes.filter((g) => g !== null).sort((a, b) => a.ratio - b.ratio);
  return measured[Math.floor(measured.length / 2)] ?? null;
}

/** All thirty rows of a mix of one's own, on outputs that fly and on free ones. */
const thirtyRows = Object.fromEntries(
  Array.from({ length: 30 }, (_, k) => k + 1).flatMap((n) => [
    [`mix.row.${n}.to`, 1 + (n % 9)],
    [`mix.row.${n}.from`, ['roll', 'stick-pitch', 'bank', 'channel-9', 'always'][n % 5]!],
    [`mix.row.${n}.weight`, 0.01],
    [`mix.row.${n}.curve`, 0.3],
    [`mix.row.${n}.channel`, n % 3 === 0 ? 6 : 0],
  ]),
);

/** Best of several, since only disturbances make it slower. */
function realTimeFactor(name: DemoName, change: Values = {}): number {
  let best = 0;
  const warm = flight(name, change);
  warm.advance(120_000);
  for (let k = 0; k < 12; k++) {
    const r = flight(name, change);
    const start = performance.now();
    r.advance(120_000);
    best = Math.max(best, 120_000 / (performance.now() - start));
  }
  return best;
}

/** The whole batch of the demo scenario on two threads, s. */
async function batchSeconds(): Promise<{ seconds: number; home: number; total: number }> {
  const raw = JSON.parse(readFileSync('demo/scenarios/northeast-in-wind.json', 'utf8'));
  const scenario = parseScenario(raw, torvholm);
  if (!scenario.ok) throw new Error(scenario.why);
  const start = performance.now();
  const flights = await rehearseBatch({ ...setUp('turnstone'), scenario: scenario.scenario }, 2);
  const home = flights.filter((f) => f.verdict === 'home').length;
  return { seconds: (performance.now() - start) / 1000, home, total: flights.length };
}

/** The whole table of what may go wrong with Turnstone on two threads, s. */
async function failsSeconds(): Promise<{ seconds: number; flights: number }> {
  const { airframe, board, values, truth, site } = setUp('turnstone');
  const raw = JSON.parse(readFileSync('demo/scenarios/calm.json', 'utf8'));
  const scenario = parseScenario({ ...raw, wind: { speedMps: 5, fromDeg: 230, gustMps: 1 } }, torvholm);
  if (!scenario.ok) throw new Error(scenario.why);
  const world = { airframe, values, truth, site, scenario: scenario.scenario };
  const jobs = pairsOf(world).map(({ fault, phase }) => ({
    airframe,
    board,
    values,
    truth,
    scenario: failScenario(world, fault, phase),
    endsEarly: 'circling' as const,
  }));
  const start = performance.now();
  await flyAll(torvholm, jobs, 2);
  return { seconds: (performance.now() - start) / 1000, flights: jobs.length };
}

/** Share of lost links by chance that end at home, percent; every flight that does not is told. */
async function returnRate(name: DemoName, hardship: Hardship): Promise<number> {
  const input = setUp(name);
  const scenarios = Array.from({ length: RETURNS }, (_, seed) =>
    chanceLoss(input.airframe, torvholm, seed, hardship),
  );
  const { site, ...craft } = input;
  const flights = await flyAll(
    site,
    scenarios.map((scenario) => ({ ...craft, scenario })),
    2,
  );
  for (const [seed, f] of flights.entries())
    if (f.verdict !== 'home') say(`  ${name}, seed ${seed}: ${f.verdict}. ${f.reason}`);
  return (100 * flights.filter((f) => f.verdict === 'home').length) / flights.length;
}

function heapGrowthMb(): number {
  const collect = (globalThis as { gc?: () => void }).gc;
  if (!collect) return Number.NaN;
  const r = flight();
  r.advance(60_000);
  collect();
  const before = process.memoryUsage().heapUsed;
  r.advance(600_000);
  collect();
  return (process.memoryUsage().heapUsed - before) / 1e6;
}

/** Bytes put on the heap in each of so many steps, whether collected again or not. */
async function allocatedPerStep(steps: number, work: () => void): Promise<number> {
  const session = new Session();
  session.connect();
  await session.post('HeapProfiler.startSampling', {
    samplingInterval: 4096,
    includeObjectsCollectedByMajorGC: true,
    includeObjectsCollectedByMinorGC: true,
  });
  work();
  const { profile } = await session.post('HeapProfiler.stopSampling');
  session.disconnect();
  const sum = (node: typeof profile.head): number =>
    node.children.reduce((all, child) => all + sum(child), node.selfSize);
  return sum(profile.head) / steps;
}

/** Of the plant alone, and of everything: the rest is mostly what a GNSS receiver says five times a second. */
async function allocations(): Promise<{ plant: number; all: number }> {
  const steps = 100_000;
  const plant = new Plant(turnstone);
  plant.position[2] = -500;
  plant.velocity[0] = 16;
  plant.duties.fill(0.5);
  const wind = new Float64Array(3);
  const fly = () => {
    for (let k = 0; k < steps; k++) plant.step(wind, 0.001);
  };
  fly();
  const r = flight();
  r.advance(steps);
  return {
    plant: await allocatedPerStep(steps, fly),
    all: await allocatedPerStep(steps, () => r.advance(steps)),
  };
}

async function roundTrips(): Promise<{ trips: number; settings: number }> {
  const rig = benchRig();
  let sent = 0;
  const copy = await meet(rig.client);
  const before = rig.bench.link!.reader.counts.good;
  const { readValues } = await import('../src/link/board.ts');
  await readValues(rig.client);
  sent = rig.bench.link!.reader.counts.good - before;
  rig.stop();
  return { trips: sent, settings: copy.identity.settings };
}

/** Script the first page needs before its first leg can be used: the entry and what it imports at once, gzip. */
function firstLoadKb(): { main: number; withWorker: number; withBench: number } | null {
  const dir = 'dist/app/assets';
  if (!existsSync('dist/app/index.html')) execFileSync('npm', ['run', 'build'], { stdio: ['ignore', 2, 2] });
  const seen = new Set<string>();
  const follow = (file: string) => {
    if (seen.has(file) || !existsSync(join(dir, file))) return;
    seen.add(file);
    const text = readFileSync(join(dir, file), 'utf8');
    for (const m of text.matchAll(/(?:from|import)\s*["']\.\/([\w.-]+\.js)["']/g)) follow(m[1]!);
  };
  const html = readFileSync('dist/app/index.html', 'utf8');
  for (const m of html.matchAll(/assets\/([\w.-]+\.js)/g)) follow(m[1]!);
  const size = (file: string) => gzipSync(readFileSync(join(dir, file))).length / 1000;
  const main = [...seen].reduce((sum, f) => sum + size(f), 0);
  // The worker that knows the firmware's catalogue, and the bench that it loads with the first craft.
  const begins = (name: string) => readdirSync(dir).find((f) => f.startsWith(name));
  const [worker, kit] = [begins('bench.worker'), begins('benchKit')];
  const withWorker = main + (worker ? size(worker) : 0);
  return { main, withWorker, withBench: withWorker + (kit ? size(kit) : 0) };
}

/** The slowest of two hundred loads of wishes on Massif, twelve outputs and twelve devices, ms. */
function solveMs(): number {
  const random = new Random(5);
  const pick = <T>(of: readonly T[]) => of[Math.floor(random.uniform() * of.length)]!;
  const serial = ['gnss', 'telemetry', 'camera', 'rangefinder', 'receiver-crsf', 'video-control'] as const;
  const buses = ['compass', 'airspeed', 'temperature', 'rangefinder', 'battery-monitor', 'flow'] as const;
  let worst = 0;
  for (let k = 0; k < 200; k++) {
    const wishes = wishesSchema.parse({
      outputs: Array.from({ length: 12 }, (_, i) => ({
        name: `output ${i}`,
        kind: pick(k % 2 === 0 ? ['servo-pwm', 'dshot600'] : outputKinds),
        ...(random.uniform() < 0.5 ? { output: 1 + i } : {}),
      })),
      serial: serial.map((device, i) => ({
        device,
        ...(random.uniform() < 0.3 ? { port: `port ${1 + i}` } : {}),
        ...(random.uniform() < 0.2 ? { baud: 9600 } : {}),
      })),
      buses: buses.map((device) => ({ device, kind: random.uniform() < 0.2 ? 'can' : 'i2c' })),
    });
    const board = pick([massifH7A, massifH7B]);
    // Best of three, since only disturbances make it slower; the first ones are compiled on the way.
    let best = Number.POSITIVE_INFINITY;
    for (let go = 0; go < 3; go++) {
      const start = performance.now();
      solve(board, wishes);
      best = Math.min(best, performance.now() - start);
    }
    if (k >= 20) worst = Math.max(worst, best);
  }
  return worst;
}

/** Every combination of eight switches of two, three or six positions, arming and all modes somewhere among them. */
function switchesMs(): number {
  const random = new Random(8);
  const kinds = [
    [1000, 2000],
    [1000, 1500, 2000],
    [1000, 1200, 1400, 1600, 1800, 2000],
  ];
  let slowest = 0;
  for (let go = 0; go < 220; go++) {
    const inputs = Array.from({ length: 8 }, (_, k) => ({
      channel: 5 + k,
      positions: kinds[Math.floor(3 * random.uniform())]!,
    }));
    const bands = (['arm', ...switchedModes] as const).map((asks) => {
      const fromUs = 900 + 1000 * random.uniform();
      return { asks, channel: 5 + Math.floor(8 * random.uniform()), fromUs, toUs: fromUs + 300 };
    });
    const begin = performance.now();
    enumerate(bands, inputs);
    // The first ones are the compiler's.
    if (go >= 20) slowest = Math.max(slowest, performance.now() - begin);
  }
  return slowest;
}

/** The reach as a worker draws it at its finest, the slowest craft's best of three, ms. What the craft needs is known by then. */
function reachMs(): number {
  let slowest = 0;
  for (const name of ALL_CRAFT) {
    const { airframe, values, site } = setUp(name);
    const wind = { speedMps: 7, fromDeg: 230, gustMps: 1.4 };
    const circumstances = { wind, batteryShare: 0.9, reserveShare: 0.2, heightM: 120 };
    const input = { airframe, values, site, circumstances };
    const plan = planOf(input);
    let best = Number.POSITIVE_INFINITY;
    for (let go = 0; go < 3; go++) {
      const start = performance.now();
      reachMap(homeMarch(input, plan), 100);
      best = Math.min(best, performance.now() - start);
    }
    slowest = Math.max(slowest, best);
  }
  return slowest;
}

/** Time to read a HEX file of 4 MB of data, the median of five, ms. */
function hexMs(): number {
  const random = new Random(9);
  const image = Uint8Array.from({ length: 4 * 1024 * 1024 }, () => Math.floor(256 * random.uniform()));
  const file = new TextEncoder().encode(writeHex(0x10_0000, image));
  const times = Array.from({ length: 5 }, () => {
    const start = performance.now();
    if (!readHex(file).ok) throw new Error('the bench wrote a HEX file that it cannot read');
    return performance.now() - start;
  });
  return times.sort((a, b) => a - b)[2]!;
}

/** A route of sixty points over the island flown in thought, with the way home asked for all along it: slowest craft's best of three, ms. */
function routeMs(): number {
  const points = Array.from({ length: 60 }, (_, i) =>
    pointAt(400 + 40 * i, (i + (i >> 1)) % 2 ? 1500 : -500, { heightM: 120, above: 'ground' }),
  );
  const slowest = ALL_CRAFT.map((name) => {
    const asked = {
      ...{ ...setUp(name), plan: routeOf(points) },
      ...{ wind: { speedMps: 4, fromDeg: 230, gustMps: 1 }, batteryShare: 1, reserveShare: 0.2, linkM: 0 },
    };
    return Math.min(
      ...[0, 1, 2].map(() => {
        const from = performance.now();
        routeWay(asked);
        return performance.now() - from;
      }),
    );
  });
  return Math.max(...slowest);
}

/** An hour of flight, ten moments a second, opened and looked over, ms: the median of five. */
function flownMs(): number {
  const { airframe, site } = setUp('turnstone');
  const bytes = longLog(3600);
  const times = Array.from({ length: 5 }, () => {
    const from = performance.now();
    const opened = openFlown(bytes, 'a log', site.home);
    if (!opened.ok) throw new Error(opened.why);
    const groundM = groundUnder(opened.flown, site);
    surprisesOf(opened.flown, { airframe, groundM, units: 'metric' });
    figuresOf(opened.flown);
    seriesOf(opened.flown, groundM);
    return performance.now() - from;
  }).sort((a, b) => a - b);
  return times[2]!;
}

/** A map of where a craft may lie, with its endings flown, ms. */
function searchMs(): number {
  const { airframe, values, site } = setUp('turnstone');
  const world = {
    craft: fallingCraft(airframe, values),
    seen: {
      ...{
        lat: site.home.lat + 0.02,
        lon: site.home.lon + 0.02,
        heightM: 180,
        accuracyM: 5,
        courseRad: 1,
        speedMps: 16,
      },
      ...{ climbMps: 0, windFromRad: 4, windMps: 8, returning: false },
    },
    ground: groundAbout(site.terrain, site.home),
    home: site.home,
  };
  const from = performance.now();
  likelihoodOf(flyEndings(world, 6000, 1), world);
  return performance.now() - from;
}

/** Half an hour of rates at 1 kHz, asked in steps and answered by a lag: how long the answer takes out of it, s. */
function stepSeconds(): number {
  const random = new Random(6);
  const n = 1_800_000;
  const [asked, came] = [new Float64Array(n), new Float64Array(n)];
  for (let k = 1; k < n; k++) {
    asked[k] = k % 700 === 0 ? 3 * (random.uniform() - 0.5) : asked[k - 1]!;
    came[k] = came[k - 1]! + 0.01 * (asked[k]! - came[k - 1]!);
  }
  const from = performance.now();
  if (!stepFromLog([{ asked, came }], 1000, 0.1).ok) throw new Error('nothing was told');
  return (performance.now() - from) / 1000;
}

/** @param returns also fly two hundred lost links a craft, which takes some twenty minutes */
export async function main(json: boolean, returns: boolean): Promise<void> {
  const figures: Figure[] = [];
  const add = (name: string, value: number, unit: string, budget: number, better: Figure['better']) => {
    figures.push({ name, value: Number(value.toPrecision(4)), unit, budget, better });
    say(`${name}: ${value.toPrecision(4)} ${unit} (budget ${budget}, ${better} is better)`);
  };
  say('Stepping the plant here and in C…');
  const c = plantAgainstC();
  if (c) {
    add('plant.time-over-c', c.ratio, 'x', 1.6, 'lower');
    add('plant.apart-from-c', c.apartM, 'm after 60 s', 1e-3, 'lower');
  }
  say('Flying Turnstone and Avocet…');
  add('bench.realtime.turnstone', realTimeFactor('turnstone'), 'x', 400, 'higher');
  add('bench.realtime.30rows', realTimeFactor('turnstone', thirtyRows), 'x', 360, 'higher');
  add('bench.realtime.avocet', realTimeFactor('avocet'), 'x', 200, 'higher');
  const heap = heapGrowthMb();
  if (Number.isFinite(heap)) add('bench.heapgrowth.10min', heap, 'MB', 1, 'lower');
  const allocated = await allocations();
  add('plant.allocation', allocated.plant, 'B per step', 2, 'lower');
  add('bench.allocation', allocated.all, 'B per step', 200, 'lower');
  say('Flying one scenario in 240 winds on two threads…');
  const batch = await batchSeconds();
  add('batch.240', batch.seconds, `s (${batch.home} of ${batch.total} home)`, 150, 'lower');
  say('Flying the table of failures on two threads…');
  const table = await failsSeconds();
  add('fails.turnstone', table.seconds, `s for ${table.flights} flights`, 120, 'lower');
  add('reach.100m', reachMs(), 'ms for 12 km by 12 km at 100 m, slowest of six craft', 1000, 'lower');
  add('route.60-points', routeMs(), 'ms in thought, slowest of six craft', 500, 'lower');
  add('search.map', searchMs(), 'ms for 6000 endings on one thread', 20_000, 'lower');
  add('flown.open.1h', flownMs(), 'ms for an hour of flight, ten moments a second', 1000, 'lower');
  add('log.step.30-min', stepSeconds(), 's for half an hour at 1 kHz', 3, 'lower');
  if (returns) {
    say('Flying from six hundred places that the map of the reach calls good or bad…');
    const truth = await reachTruth(600);
    for (const miss of truth.misses) say(`  ${miss}`);
    add('reach.good-comes-home', 100 * truth.good, '% of those called good', 98, 'higher');
    add('reach.bad-does-not', 100 * truth.bad, '% of those called bad by a tenth', 90, 'higher');
    say('Losing two hundred craft and looking for them…');
    add(
      'search.first-fifth',
      100 * searchTruth(200).firstFifth,
      '% of 200 losses, in the first fifth of the area that is searched',
      80,
      'higher',
    );
    const energy = await energyTruth(200);
    for (const miss of energy.misses) say(`  ${miss}`);
    add(
      'energy.reserve-kept',
      100 * energy.kept,
      '% of 200 flights in a wind that nobody forecast',
      95,
      'higher',
    );
    say('Proposing gains for sixty craft drawn by chance, flying them, and letting boards find their own…');
    const tuning = tuningTruth(60);
    for (const line of tuning.lines) say(`  ${line}`);
    add('tuning.proposed', 100 * tuning.proposed, '% of axes', 95, 'higher');
    add('tuning.under-20-percent-over', 100 * tuning.calm, '% of what was proposed, flown', 100, 'higher');
    add(
      'tuning.steady-in-gusts',
      100 * tuning.steady,
      '% of what was proposed, gusts of 5 m/s',
      100,
      'higher',
    );
    add('tuning.found-in-flight', 100 * tuning.found, '% of axes', 95, 'higher');
    add(
      'tuning.found-near-the-model',
      100 * tuning.near,
      '% of what was found, within a fifth',
      95,
      'higher',
    );
    add('reach.reason', 100 * truth.reason, '% of those with the reason it has', 85, 'higher');
    for (const name of ALL_CRAFT) {
      say(`Losing the link ${RETURNS} times with ${name}…`);
      add(`returns.${name}`, await returnRate(name, 'none'), '% home', 100, 'higher');
      add(`returns.${name}.gnss-out-20s`, await returnRate(name, 'gnss-out'), '% home', 98, 'higher');
      add(`returns.${name}.gusts-at-40-percent`, await returnRate(name, 'gusts'), '% home', 98, 'higher');
    }
  }
  say('Reading a board…');
  const read = await roundTrips();
  add('link.roundtrips.settings', read.trips, `round trips for ${read.settings} settings`, 8, 'lower');
  say('Weighing the first page…');
  const load = firstLoadKb();
  if (load) {
    add('app.firstload.script', load.main, 'kB gzip', 250, 'lower');
    add('app.firstload.script-and-catalogue-worker', load.withWorker, 'kB gzip', 250, 'lower');
    say(`  and ${load.withBench.toFixed(0)} kB once the simulated bench has been loaded behind it`);
  }
  say('Laying out boards…');
  add('board.solve.massif', solveMs(), 'ms, slowest of 180', 50, 'lower');
  add('switches.enumerate', switchesMs(), 'ms, slowest of 200 with 8 switches', 20, 'lower');
  add('hex.read.4mb', hexMs(), 'ms', 300, 'lower');
  say('Changing legs…');
  const change = await inPage(legChangeMs);
  if (change !== null) add('app.legchange', change, 'ms', 100, 'lower');
  say('Watching a board for half a minute…');
  const watched = await inPage(telemetryMs);
  if (watched !== null)
    add('app.telemetry.longest-task', watched, 'ms of the main thread in 30 s', 50, 'lower');
  say('Turning the wind of the reach…');
  const dragged = await inPage(reachDragMs);
  if (dragged !== null)
    add('reach.longest-task', dragged, 'ms of the main thread while a handle moves', 50, 'lower');
  say('Playing a flight under its overlay…');
  const pictures = await inPage(overlayFps);
  if (pictures !== null) add('overlay.pictures', pictures, 'a second, drawn in software', 30, 'higher');
  say('Scrubbing an hour of flight…');
  const scrubbed = await inPage(scrub);
  if (scrubbed) {
    add(
      'flown.scrub.longest-task',
      scrubbed.taskMs,
      'ms of the main thread over an hour of flight',
      50,
      'lower',
    );
    add('flown.scrub.pictures', scrubbed.fps, 'a second while it is scrubbed', 55, 'higher');
  }
  say('Plotting twelve values…');
  const plotted = await inPage(plots);
  if (plotted) {
    add('app.plots.longest-task', plotted.taskMs, 'ms of the main thread, 12 values at 100 Hz', 50, 'lower');
    add('app.plots.heap', plotted.heapMb, 'MB more', 5, 'lower');
  }
  say('Looking through a thousand snapshots…');
  const idle = await inPage(idlePercent);
  if (idle !== null) add('app.idle.page', idle, '% of a core, board plugged in', 10, 'lower');
  const kept = await inPage(keepMs);
  if (kept) {
    add('keep.longest-task', kept.frame, 'ms with 1000 snapshots', 50, 'lower');
    add('keep.compare', kept.compare, 'ms for 450 settings', 100, 'lower');
  }
  if (json) process.stdout.write(`${JSON.stringify({ figures })}\n`);
  else
    for (const f of figures)
      process.stdout.write(`${f.name.padEnd(44)} ${String(f.value).padStart(10)} ${f.unit}\n`);
  process.exit(0);
}
