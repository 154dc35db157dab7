import { execFileSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { Rehearsal } from '../src/bench/rehearsal.ts';
import { Plant } from '../src/core/flight/plant.ts';
import { parseScenario } from '../src/core/formats/scenario.ts';
import { readBoard } from '../src/link/board.ts';
import { benchRig } from '../src/testing/benchRig.ts';
import { demoCraft, demoValues, torvholm } from '../src/testing/demoCraft.ts';

interface Figure {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  readonly budget: number;
  readonly better: 'higher' | 'lower';
}

const say = (text: string) => process.stderr.write(`${text}\n`);

function flight(): Rehearsal {
  const craft = demoCraft('turnstone');
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
  return new Rehearsal({
    airframe: craft.airframe,
    values: demoValues('turnstone'),
    truth: craft.bench!,
    scenario: scenario.scenario,
    terrain: torvholm,
  });
}

/** Best of several, since only disturbances make it slower. */
function realTimeFactor(): number {
  let best = 0;
  const warm = flight();
  warm.advance(60_000);
  for (let k = 0; k < 4; k++) {
    const r = flight();
    const start = performance.now();
    r.advance(120_000);
    best = Math.max(best, 120_000 / (performance.now() - start));
  }
  return best;
}

function plantStepsPerSecond(): number {
  const plant = new Plant(demoCraft('turnstone').airframe);
  const wind = new Float64Array(3);
  plant.velocity[0] = 16;
  plant.position[2] = -500;
  plant.duties.fill(0.55);
  let best = 0;
  for (let k = 0; k < 5; k++) {
    const start = performance.now();
    for (let i = 0; i < 200_000; i++) {
      if (i % 5000 === 0) {
        plant.position[2] = -500;
        plant.velocity.fill(0);
        plant.velocity[0] = 16;
        plant.rates.fill(0);
        plant.attitude.fill(0);
        plant.attitude[0] = 1;
      }
      plant.step(wind, 0.001);
    }
    best = Math.max(best, 200_000 / ((performance.now() - start) / 1000));
  }
  return best;
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

async function roundTrips(): Promise<{ trips: number; settings: number }> {
  const rig = benchRig();
  let sent = 0;
  const copy = await readBoard(rig.client, () => {});
  const before = rig.bench.link!.reader.counts.good;
  const { readValues } = await import('../src/link/board.ts');
  await readValues(rig.client);
  sent = rig.bench.link!.reader.counts.good - before;
  rig.stop();
  return { trips: sent, settings: copy.identity.settings };
}

/** Script the first page needs before its first leg can be used: the entry and what it imports at once, gzip. */
function firstLoadKb(): { main: number; withWorker: number } | null {
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
  const worker = readdirSync(dir).find((f) => f.startsWith('bench.worker'));
  return { main, withWorker: main + (worker ? size(worker) : 0) };
}

/** Runs in the page: presses a key, and resolves with the time until the new leg is painted. As text, since it is not ours to compile. */
const CHANGE_LEG = `(key) => new Promise((resolve) => {
  const before = document.querySelector('h1');
  const start = performance.now();
  const look = () => {
    const now = document.querySelector('h1');
    if (now && now !== before) requestAnimationFrame(() => setTimeout(() => resolve(performance.now() - start)));
    else requestAnimationFrame(look);
  };
  window.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
  look();
})`;

/** Median time from the key that changes the leg to the paint of the new one, in Chromium. Null without one. */
async function legChangeMs(): Promise<number | null> {
  const executablePath = [process.env.CHROMIUM, '/usr/bin/chromium'].find((p) => p && existsSync(p));
  if (!executablePath) return null;
  const { chromium } = await import('playwright-core');
  const { createServer } = await import('../src/server/serve.ts');
  const server = createServer().listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const address = server.address();
  const port = typeof address === 'object' && address ? address.port : 0;
  const browser = await chromium.launch({
    executablePath,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await page.goto(`http://127.0.0.1:${port}/`);
    await page.waitForSelector('h1');
    await page.waitForTimeout(2500);
    const times: number[] = [];
    for (let round = 0; round < 4; round++) {
      for (const key of ['3', '4', '6', '1']) {
        times.push(await page.evaluate<number>(`(${CHANGE_LEG})(${JSON.stringify(key)})`));
        await page.waitForTimeout(200);
      }
    }
    // The first visit of a leg loads it; the median is of legs that were seen before.
    const later = times.slice(4).sort((a, b) => a - b);
    return later[Math.floor(later.length / 2)]!;
  } finally {
    await browser.close();
    server.close();
  }
}

export async function main(json: boolean): Promise<void> {
  const figures: Figure[] = [];
  const add = (name: string, value: number, unit: string, budget: number, better: Figure['better']) => {
    figures.push({ name, value: Number(value.toPrecision(4)), unit, budget, better });
    say(`${name}: ${value.toPrecision(4)} ${unit} (budget ${budget}, ${better} is better)`);
  };
  say('Flying Turnstone…');
  add('bench.realtime.turnstone', realTimeFactor(), 'x', 300, 'higher');
  add('plant.steps', plantStepsPerSecond() / 1e6, 'million/s', 0.6, 'higher');
  const heap = heapGrowthMb();
  if (Number.isFinite(heap)) add('bench.heapgrowth.10min', heap, 'MB', 1, 'lower');
  say('Reading a board…');
  const read = await roundTrips();
  add('link.roundtrips.settings', read.trips, `round trips for ${read.settings} settings`, 8, 'lower');
  say('Weighing the first page…');
  const load = firstLoadKb();
  if (load) {
    add('app.firstload.script', load.main, 'kB gzip', 250, 'lower');
    add('app.firstload.script-and-bench-worker', load.withWorker, 'kB gzip', 250, 'lower');
  }
  say('Changing legs…');
  const change = await legChangeMs();
  if (change !== null) add('app.legchange', change, 'ms', 100, 'lower');
  if (json) process.stdout.write(`${JSON.stringify({ figures })}\n`);
  else
    for (const f of figures)
      process.stdout.write(`${f.name.padEnd(44)} ${String(f.value).padStart(10)} ${f.unit}\n`);
  process.exit(0);
}
