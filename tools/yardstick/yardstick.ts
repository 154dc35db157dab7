/**
 * The plant kernel against the same equations in C (plant.c, built with -O2): how many times longer ours takes, and
 * how far apart the two end after the same flight.
 */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { turnstone } from '../../src/core/airframe/library.ts';
import { trimLevel } from '../../src/core/airframe/performance.ts';
import { openCircuitV } from '../../src/core/flight/battery.ts';
import { Plant } from '../../src/core/flight/plant.ts';
import { DEG } from '../../src/core/math/scalar.ts';

const DIR = '.cache/yardstick';
const STEPS = 60_000;
const ROUNDS = 40;
const CHUNK = 500;

export interface Yardstick {
  /** Our time over that of C. */
  readonly ratio: number;
  /** Distance between the two ends, m. */
  readonly apartM: number;
}

function start(): Plant {
  const plant = new Plant(turnstone);
  plant.position[2] = -500;
  plant.velocity[0] = 16;
  plant.duties.fill(0.55);
  const elevator = turnstone.surfaces.findIndex((s) => s.id === 'elevator');
  plant.deflections[elevator] = -(trimLevel(turnstone, 16)?.pitch ?? 0) * 24 * DEG;
  return plant;
}

function describe(p: Plant): string {
  const a = turnstone;
  const m = p.panels;
  const b = a.battery;
  const motors = p.motors.flatMap((u) => [
    u.torqueConstant,
    u.inertia,
    u.bellInertia,
    u.motor.resistanceOhm,
    u.motor.idleCurrentA,
    u.motor.maxCurrentA,
    u.motor.propDiameterM,
    u.curve.thrust0,
    u.curve.power0,
    u.curve.advanceZero,
    u.cooling,
    u.heatCapacity,
  ]);
  const numbers = [
    m.count,
    m.wingPanels,
    m.tailPanels,
    p.motors.length,
    m.surfaceIds.length,
    ...m.rows.flatMap((row) => [...row]),
    ...m.surfaceOf,
    ...m.partnerOf,
    ...m.flapShare,
    ...m.wakeShare,
    m.wingArea,
    a.bodyDragM2,
    m.bodySide,
    m.bodyAft,
    m.downwash,
    p.mass,
    p.ix,
    p.iy,
    p.iz,
    b.cells,
    b.capacityMah * 3.6,
    b.cells * b.cellResistanceOhm,
    ...Array.from({ length: 11 }, (_, i) => openCircuitV(b.chemistry, i / 10)),
    ...p.arms,
    ...p.axes,
    ...p.senses,
    ...motors,
    ...p.deflections,
    ...p.duties,
    ...p.position,
    ...p.velocity,
  ];
  return numbers.map((n) => n.toPrecision(17)).join('\n');
}

/**
 * Keeps this thread, and what it starts, on these processors where the machine can do that: a neighbour that slows one
 * processor of two would otherwise be counted against one of the two programs only.
 */
function stayOn(processors: string): void {
  spawnSync('taskset', ['-p', '-c', processors, String(process.pid)]);
}

const still = new Float64Array(3);

/** Some steps at a time, as the bench makes them: a function that is called often is compiled as a whole. */
function fly(plant: Plant): void {
  for (let k = 0; k < CHUNK; k++) plant.step(still, 0.001);
}

/** Null where there is no C compiler. */
export function yardstick(): Yardstick | null {
  if (spawnSync('gcc', ['--version']).status !== 0) return null;
  mkdirSync(DIR, { recursive: true });
  execFileSync('gcc', ['-O2', '-o', `${DIR}/plant`, 'tools/yardstick/plant.c', '-lm']);
  writeFileSync(`${DIR}/craft.txt`, describe(start()));
  stayOn('0');
  let ours = Number.POSITIVE_INFINITY;
  let theirs = Number.POSITIVE_INFINITY;
  let apartM = 0;
  // In turns, so that a slow moment of the machine hits both alike.
  for (let round = 0; round < ROUNDS; round++) {
    const out = execFileSync(`${DIR}/plant`, [`${DIR}/craft.txt`, String(STEPS)], { encoding: 'utf8' });
    const [seconds, ...end] = out.trim().split(' ').map(Number) as [number, ...number[]];
    theirs = Math.min(theirs, seconds);
    const plant = start();
    const begin = performance.now();
    for (let k = 0; k < STEPS; k += CHUNK) fly(plant);
    ours = Math.min(ours, (performance.now() - begin) / 1000);
    apartM = Math.hypot(...[0, 1, 2].map((i) => plant.position[i]! - end[i]!));
  }
  stayOn(`0-${cpus().length - 1}`);
  return { ratio: ours / theirs, apartM };
}
