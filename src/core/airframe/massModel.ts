import { DRIVE_KG_PER_A, propellerMassKg } from '../flight/propulsion.ts';
import { DEG } from '../math/scalar.ts';
import { type Airframe, isRotorcraft, type Weight } from './airframe.ts';

/** Moments of inertia about the centre of gravity, body axes, kg m^2. The cross terms are left out. */
export interface Inertia {
  readonly xx: number;
  readonly yy: number;
  readonly zz: number;
}

/** One part: a box of even density with its middle at a place, m. */
export interface MassPart {
  readonly name: string;
  readonly massKg: number;
  readonly aftM: number;
  readonly rightM: number;
  readonly upM: number;
  /** Along the nose, across, upright. */
  readonly size: readonly [lengthM: number, widthM: number, heightM: number];
}

/** Watt-hours in a kilogram of pack. */
const PACK_WH_PER_KG = { lipo: 150, 'li-ion': 215 } as const;
const NOMINAL_CELL_V = { lipo: 3.7, 'li-ion': 3.6 } as const;
/** Board, receivers, wires: share of the whole. */
const ELECTRONICS_SHARE = 0.06;
/** Share of what is left that is lifting surfaces (arms, on a craft without any). */
const SURFACE_SHARE = 0.52;
const STRIPS = 4;

/**
 * The craft as a list of parts whose masses add up to its take-off mass: the weighed ones, or else motors by the current they carry,
 * battery by its energy, lifting surfaces by area, the rest as body. The battery lies where it brings the
 * balance to the given centre of gravity; what it cannot do (a nose only so long) the electronics do.
 */
export function massParts(airframe: Airframe): MassPart[] {
  return airframe.weights ? weighedParts(airframe, airframe.weights) : estimatedParts(airframe);
}

/** Extent of parts that are not drawn, m. */
const SMALL = [0.03, 0.03, 0.02] as const;

/** The weighed parts, each as large as the estimate has it: a planform along its span, a body along its length. */
function weighedParts(airframe: Airframe, weights: readonly Weight[]): MassPart[] {
  const alike = estimatedParts(airframe);
  return weights.flatMap((w): MassPart[] => {
    const own = alike.filter((p) => p.name === w.id);
    const massKg = own.reduce((s, p) => s + p.massKg, 0);
    if (own.length === 0 || massKg <= 0)
      return [{ name: w.id, massKg: w.massKg, aftM: w.aftM, rightM: w.rightM, upM: w.upM, size: SMALL }];
    const shift = w.aftM - own.reduce((s, p) => s + p.massKg * p.aftM, 0) / massKg;
    const aside = w.rightM - own.reduce((s, p) => s + p.massKg * p.rightM, 0) / massKg;
    return own.map((p) => ({
      ...p,
      massKg: (p.massKg * w.massKg) / massKg,
      aftM: p.aftM + shift,
      rightM: p.rightM + aside,
    }));
  });
}

function estimatedParts(airframe: Airframe): MassPart[] {
  const parts: MassPart[] = [];
  const b = airframe.battery;
  let motors = 0;
  for (const m of airframe.motors) {
    const massKg = DRIVE_KG_PER_A * m.maxCurrentA + propellerMassKg(m.propDiameterM);
    motors += massKg;
    parts.push({
      name: m.id,
      massKg,
      aftM: m.aftM,
      rightM: m.rightM,
      upM: m.upM,
      size: [0.03, 0.03, 0.03],
    });
  }
  const pack = (b.cells * NOMINAL_CELL_V[b.chemistry] * b.capacityMah) / 1000 / PACK_WH_PER_KG[b.chemistry];
  const electronics = ELECTRONICS_SHARE * airframe.massKg;
  // A craft described lighter than its motors and pack keeps a tenth for its structure; those shrink.
  const room = 0.84 * airframe.massKg;
  const shrink = Math.min(1, room / (motors + pack));
  for (let i = 0; i < parts.length; i++) parts[i] = { ...parts[i]!, massKg: parts[i]!.massKg * shrink };
  const structure = airframe.massKg - electronics - (motors + pack) * shrink;
  const surfaces = SURFACE_SHARE * structure;
  if (isRotorcraft(airframe)) {
    for (const m of airframe.motors) {
      const massKg = surfaces / airframe.motors.length;
      const aftM = (m.aftM + airframe.cgAftM) / 2;
      const size = [Math.abs(m.aftM - airframe.cgAftM), Math.abs(m.rightM), 0.01] as const;
      parts.push({ name: `arm of the ${m.id}`, massKg, aftM, rightM: m.rightM / 2, upM: 0, size });
    }
  } else {
    const area = airframe.planforms.reduce((s, p) => s + (p.spanM * (p.rootChordM + p.tipChordM)) / 2, 0);
    for (const p of airframe.planforms) {
      const half = p.pair ? p.spanM / 2 : p.spanM;
      const gamma = p.pair ? p.dihedralDeg * DEG : Math.PI / 2;
      for (const side of p.pair ? [-1, 1] : [0]) {
        for (let k = 0; k < STRIPS; k++) {
          const t = (k + 0.5) / STRIPS;
          const chord = p.rootChordM + (p.tipChordM - p.rootChordM) * t;
          const along = half * t;
          parts.push({
            name: p.id,
            massKg: (surfaces * chord * (half / STRIPS)) / area,
            aftM: p.rootAftM + (p.tipAftM - p.rootAftM) * t + 0.42 * chord,
            rightM: side * (p.rootRightM + along * Math.cos(gamma)),
            upM: p.upM + along * Math.sin(gamma),
            size: [chord, (half / STRIPS) * Math.cos(gamma), (half / STRIPS) * Math.sin(gamma) + 0.01],
          });
        }
      }
    }
  }
  const { lengthM, bodyWidthM, bodyHeightM } = airframe;
  parts.push({
    name: 'body',
    massKg: structure - surfaces,
    aftM: isRotorcraft(airframe) ? airframe.cgAftM : 0.42 * lengthM,
    rightM: 0,
    upM: 0,
    size: [0.8 * lengthM, bodyWidthM, bodyHeightM],
  });
  const small = 0.8 * bodyWidthM;
  balance(airframe, parts, 'battery', pack * shrink, [Math.min(0.14, 0.5 * lengthM), small, small]);
  balance(airframe, parts, 'electronics', electronics, [0.06, small, 0.03]);
  return parts;
}

/** Adds a part where it brings the balance closest to the craft's centre of gravity, within the body. */
function balance(
  airframe: Airframe,
  parts: MassPart[],
  name: string,
  massKg: number,
  size: MassPart['size'],
): void {
  const moment = parts.reduce((s, p) => s + p.massKg * (p.aftM - airframe.cgAftM), 0);
  const wanted = airframe.cgAftM - moment / massKg;
  const aftM = Math.min(Math.max(wanted, 0.08 * airframe.lengthM), 0.92 * airframe.lengthM);
  parts.push({ name, massKg, aftM, rightM: 0, upM: 0, size });
}

/** Inertia about the centre of gravity, by the parallel axis theorem over the parts. */
export function inertiaOf(airframe: Airframe): Inertia {
  let xx = 0;
  let yy = 0;
  let zz = 0;
  for (const p of massParts(airframe)) {
    const [l, w, h] = p.size;
    const x = p.aftM - airframe.cgAftM;
    xx += p.massKg * (p.rightM ** 2 + p.upM ** 2 + (w * w + h * h) / 12);
    yy += p.massKg * (x * x + p.upM ** 2 + (l * l + h * h) / 12);
    zz += p.massKg * (x * x + p.rightM ** 2 + (l * l + w * w) / 12);
  }
  return { xx, yy, zz };
}
