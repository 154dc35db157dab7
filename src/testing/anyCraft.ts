import { isRotorKind, type Kind } from '#core/airframe/actuators.ts';
import type { Airframe, Planform } from '#core/airframe/airframe.ts';
import { launchThatSuffices } from '#core/airframe/launch.ts';
import { plainCraft } from '#core/airframe/library.ts';
import { meanChord, neutralPoint } from '#core/airframe/performance.ts';
import { planformArea } from '#core/flight/panels.ts';
import { propellerCurve } from '#core/flight/propulsion.ts';
import { Random } from '#core/math/random.ts';
import { GRAVITY } from '#core/math/scalar.ts';

/** For tests and audits: a craft by chance, of a kind, as somebody might really build it, 0.3 to 6 kg. */
export function anyCraft(kind: Kind, seed: number): Airframe {
  const random = new Random(seed * 7907 + kind.length * 131 + kind.charCodeAt(0));
  return isRotorKind(kind) ? anyRotors(kind, random) : anyWing(kind, random);
}

const within = (random: Random, low: number, high: number) => low + (high - low) * random.uniform();
/** Evenly over the logarithm. */
const about = (random: Random, low: number, high: number) =>
  Math.exp(within(random, Math.log(low), Math.log(high)));

/** Cells that people take for a mass. */
const cellsFor = (massKg: number) => (massKg < 0.45 ? 2 : massKg < 0.9 ? 3 : massKg < 2.5 ? 4 : 6);

/** A drive that gives a static thrust at full throttle with some reserve, on so many cells. */
function driveFor(thrustN: number, diameterM: number, pitchShare: number, cells: number) {
  const pitchM = pitchShare * diameterM;
  const curve = propellerCurve(diameterM, pitchM);
  const n = Math.sqrt(thrustN / (curve.thrust0 * 1.225 * diameterM ** 4));
  const power = curve.power0 * 1.225 * n ** 3 * diameterM ** 5;
  const volts = 3.7 * cells;
  // A sixth of the voltage is lost in the winding at full throttle.
  const kv = (60 * n) / (0.83 * volts);
  const current = power / (0.83 * volts) + 0.02 * volts;
  return {
    propDiameterM: diameterM,
    propPitchM: pitchM,
    kvRpmPerV: kv,
    resistanceOhm: (0.17 * volts) / current,
    idleCurrentA: 0.03 * current,
    maxCurrentA: Math.max(6, 1.25 * current),
  };
}

function anyRotors(kind: Kind, random: Random): Airframe {
  const base = plainCraft(kind);
  const massKg = about(random, 0.3, 6);
  const n = base.motors.length;
  const cells = cellsFor(massKg);
  const disc = within(random, 60, 150);
  // Two discs above each other share their air.
  const discs = kind === 'y6' ? n / 2 : n;
  const diameterM = Math.sqrt((4 * massKg * GRAVITY) / (disc * discs * Math.PI));
  const lift = within(random, 2.2, 4.5);
  const drive = driveFor((lift * massKg * GRAVITY) / n, diameterM, within(random, 0.42, 0.65), cells);
  const armM = diameterM * within(random, kind === 'hex' ? 1.1 : 0.82, kind === 'hex' ? 1.3 : 1.15);
  const was = Math.hypot(base.motors[0]!.aftM - base.cgAftM, base.motors[0]!.rightM);
  const k = armM / was;
  const lengthM = base.lengthM * k;
  return {
    ...base,
    name: `${kind} by chance`,
    massKg,
    cgAftM: base.cgAftM * k,
    lengthM,
    bodyWidthM: 0.35 * armM,
    bodyHeightM: 0.28 * armM,
    bodyDragM2: 0.0085 * (massKg / 0.95) ** 0.7 * within(random, 0.8, 1.3),
    motors: base.motors.map((m) => ({
      ...m,
      ...drive,
      aftM: m.aftM * k,
      rightM: m.rightM * k,
      upM: m.upM * Math.min(1, k),
    })),
    battery: {
      chemistry: 'lipo',
      cells,
      capacityMah: Math.round(((massKg * within(random, 0.22, 0.32) * 150) / (3.7 * cells)) * 1000),
      cellResistanceOhm: 0.0045 * (2.2 / (massKg * 2)) ** 0.8,
    },
  };
}

const shaped = (p: Planform, k: number, slender: number): Planform => ({
  ...p,
  spanM: p.spanM * k * slender,
  rootChordM: (p.rootChordM * k) / slender,
  tipChordM: (p.tipChordM * k) / slender,
  rootAftM: p.rootAftM * k,
  tipAftM: p.rootAftM * k + ((p.tipAftM - p.rootAftM) * k) / slender,
  rootRightM: p.rootRightM * k,
  upM: p.upM * k,
});

function anyWing(kind: Kind, random: Random): Airframe {
  const base = plainCraft(kind);
  const massKg = about(random, 0.3, 6);
  const k0 = (massKg / base.massKg) ** (1 / 3) * within(random, 0.93, 1.12);
  const slender =
    kind === 'wing' || kind === 'delta' ? within(random, 0.97, 1.06) : within(random, 0.94, 1.15);
  const planforms = base.planforms.map((p) => shaped(p, k0, p.id === 'wing' ? slender : 1));
  const cells = cellsFor(massKg);
  const n = base.motors.length;
  const thrust = (within(random, 0.65, 1.2) * massKg * GRAVITY) / n;
  const wing = planforms.find((p) => p.id === 'wing')!;
  const area = planformArea(wing);
  // Propellers of wings turn so that their pitch speed is well above the cruise.
  const diameterM = (n === 1 ? 0.31 : 0.24) * Math.sqrt(area) ** 0.9 * within(random, 0.9, 1.1);
  const drive = driveFor(thrust, diameterM, within(random, 0.55, 0.75), cells);
  const shape: Airframe = {
    ...base,
    name: `${kind} by chance`,
    massKg,
    planforms,
    lengthM: base.lengthM * k0,
    bodyWidthM: base.bodyWidthM * k0,
    bodyHeightM: base.bodyHeightM * k0,
    bodyDragM2: base.bodyDragM2 * k0 * k0 * within(random, 0.8, 1.4),
    cgAftM: base.cgAftM * k0,
    motors: base.motors.map((m) => ({
      ...m,
      ...drive,
      aftM: m.aftM * k0,
      rightM: m.rightM * k0,
      upM: m.upM * k0,
    })),
    battery: {
      chemistry: 'lipo',
      cells,
      capacityMah: Math.round(((massKg * within(random, 0.2, 0.3) * 150) / (3.7 * cells)) * 1000),
      cellResistanceOhm: 0.0045 * (2.2 / (massKg * 2)) ** 0.8,
    },
  };
  const mac = meanChord(wing);
  const margin =
    kind === 'wing' || kind === 'delta' ? within(random, 0.06, 0.11) : within(random, 0.09, 0.18);
  const balanced = { ...shape, cgAftM: neutralPoint(shape) - margin * mac.chordM };
  return { ...balanced, launch: launchThatSuffices(balanced) };
}
