import { DEG } from '../math/scalar.ts';
import type { ActuatorId } from './actuators.ts';
import { type Airframe, isRotorcraft, type Planform, type Surface, widthOf } from './airframe.ts';

/** A closed shape in metres: x to the right, y aft of the nose (from above) or up (from behind). */
export type Polygon = readonly (readonly [x: number, y: number])[];

interface ActuatorShape {
  readonly id: ActuatorId;
  readonly polygons: readonly Polygon[];
  readonly centre: readonly [x: number, y: number];
}

export interface TopView {
  readonly body: Polygon;
  /** Lifting surfaces; on a craft with rotors, its arms. */
  readonly planforms: readonly Polygon[];
  readonly surfaces: readonly ActuatorShape[];
  /** `flat` discs lie open to the eye; others are seen on edge. */
  readonly motors: readonly (ActuatorShape & { readonly discRadius: number; readonly flat: boolean })[];
  readonly width: number;
  readonly length: number;
  /** How far the drawing reaches ahead of the nose, m. */
  readonly ahead: number;
}

const sidesOf = (plan: Planform): readonly number[] => (plan.pair ? [-1, 1] : [0]);

/** Part of one half from above; an upright one is drawn as a thin line of its own thickness. */
function halfEdges(plan: Planform, side: number, from: number, to: number, aftShare: number): Polygon {
  const flat = plan.pair ? Math.cos(plan.dihedralDeg * DEG) : 0;
  const half = plan.pair ? plan.spanM / 2 : plan.spanM;
  const at = (t: number) => {
    const x = side * (plan.rootRightM + t * half * flat);
    const lead = plan.rootAftM + (plan.tipAftM - plan.rootAftM) * t;
    const chord = plan.rootChordM + (plan.tipChordM - plan.rootChordM) * t;
    return { x, top: lead + chord * (1 - aftShare), low: lead + chord };
  };
  const a = at(from);
  const b = at(to);
  if (Math.abs(b.x - a.x) < 0.03) {
    const w = 0.007;
    const x = (a.x + b.x) / 2;
    return [
      [x - w, a.top],
      [x + w, a.top],
      [x + w * 0.6, a.low],
      [x - w * 0.6, a.low],
    ];
  }
  return [
    [a.x, a.top],
    [b.x, b.top],
    [b.x, b.low],
    [a.x, a.low],
  ];
}

function planformOutline(plan: Planform): Polygon[] {
  if (plan.pair && plan.rootRightM === 0 && plan.dihedralDeg < 60) {
    const right = halfEdges(plan, 1, 0, 1, 1);
    const left = halfEdges(plan, -1, 0, 1, 1);
    return [[right[0]!, right[1]!, right[2]!, right[3]!, left[2]!, left[1]!]];
  }
  return sidesOf(plan).map((side) => halfEdges(plan, side, 0, 1, 1));
}

const centreOf = (polygons: readonly Polygon[]): readonly [number, number] => {
  const points = polygons.flat();
  const sum = points.reduce((s, p) => [s[0] + p[0], s[1] + p[1]] as const, [0, 0] as const);
  return [sum[0] / points.length, sum[1] / points.length];
};

function surfaceFromAbove(airframe: Airframe, s: Surface): ActuatorShape {
  const plan = airframe.planforms.find((p) => p.id === s.on);
  if (!plan) {
    // A servo under the motor it tilts.
    const m = airframe.motors.find((x) => x.tiltedBy === s.id);
    const x = m?.rightM ?? 0;
    const y = m?.aftM ?? airframe.lengthM;
    const polygon: Polygon = [
      [x - 0.018, y - 0.075],
      [x + 0.018, y - 0.075],
      [x + 0.018, y - 0.045],
      [x - 0.018, y - 0.045],
    ];
    return { id: s.id, polygons: [polygon], centre: centreOf([polygon]) };
  }
  const sides = s.id.startsWith('left-') ? [-1] : s.id.startsWith('right-') ? [1] : sidesOf(plan);
  const polygons = sides.map((side) => halfEdges(plan, side, s.from, s.to, s.chordShare));
  return { id: s.id, polygons, centre: centreOf(polygons) };
}

function bodyOutline(airframe: Airframe): Polygon {
  const w = airframe.bodyWidthM / 2;
  const l = airframe.lengthM;
  if (isRotorcraft(airframe)) {
    return [
      [-w * 0.6, 0.12 * l],
      [w * 0.6, 0.12 * l],
      [w, 0.3 * l],
      [w, 0.75 * l],
      [w * 0.6, 0.9 * l],
      [-w * 0.6, 0.9 * l],
      [-w, 0.75 * l],
      [-w, 0.3 * l],
    ];
  }
  return [
    [0, 0],
    [w * 0.55, 0.02 * l],
    [w * 0.9, 0.09 * l],
    [w, 0.2 * l],
    [w, 0.42 * l],
    [w * 0.72, 0.62 * l],
    [w * 0.42, l],
    [-w * 0.42, l],
    [-w * 0.72, 0.62 * l],
    [-w, 0.42 * l],
    [-w, 0.2 * l],
    [-w * 0.9, 0.09 * l],
    [-w * 0.55, 0.02 * l],
  ];
}

/** The tube from the middle to a rotor. */
function armOutline(airframe: Airframe, rightM: number, aftM: number): Polygon {
  const dx = rightM;
  const dy = aftM - airframe.cgAftM;
  const size = Math.hypot(dx, dy);
  const nx = (-dy / size) * 0.009;
  const ny = (dx / size) * 0.009;
  return [
    [nx, airframe.cgAftM + ny],
    [dx + nx, aftM + ny],
    [dx - nx, aftM - ny],
    [-nx, airframe.cgAftM - ny],
  ];
}

/** The craft from above, to scale, from its dimensions. */
export function topView(airframe: Airframe): TopView {
  const rotors = isRotorcraft(airframe);
  const rear = airframe.planforms.map((p) => Math.max(p.rootAftM + p.rootChordM, p.tipAftM + p.tipChordM));
  const rotorRear = airframe.motors.map((m) => m.aftM + (m.thrust === 'up' ? m.propDiameterM / 2 : 0));
  const rotorFront = airframe.motors.map((m) => m.aftM - (m.thrust === 'up' ? m.propDiameterM / 2 : 0));
  return {
    body: bodyOutline(airframe),
    planforms: rotors
      ? airframe.motors.map((m) => armOutline(airframe, m.rightM, m.aftM))
      : airframe.planforms.flatMap(planformOutline),
    surfaces: airframe.surfaces.map((s) => surfaceFromAbove(airframe, s)),
    motors: airframe.motors.map((m) => {
      const h = m.thrust === 'up' ? 0.017 : 0.032;
      const deep = m.thrust === 'up' ? 0.034 : 0.13;
      const nacelle: Polygon = [
        [m.rightM - h, m.aftM - (m.thrust === 'up' ? 0.017 : -0.02)],
        [m.rightM + h, m.aftM - (m.thrust === 'up' ? 0.017 : -0.02)],
        [m.rightM + h, m.aftM + (m.thrust === 'up' ? 0.017 : deep)],
        [m.rightM - h, m.aftM + (m.thrust === 'up' ? 0.017 : deep)],
      ];
      // On a pusher the motor lies ahead of its propeller.
      const pusher = m.thrust === 'forward' && m.aftM > airframe.cgAftM;
      return {
        id: m.id,
        polygons: [pusher ? nacelle.map(([x, y]) => [x, 2 * m.aftM - y] as const) : nacelle],
        centre: [m.rightM, m.aftM] as const,
        discRadius: m.propDiameterM / 2,
        flat: m.thrust === 'up',
      };
    }),
    width: widthOf(airframe),
    length: Math.max(airframe.lengthM, ...rear, ...rotorRear),
    ahead: Math.max(0, ...rotorFront.map((y) => -y)),
  };
}

/** One lifting surface from behind: from the root to the tip, m right and up. */
export interface RearLine {
  readonly from: readonly [number, number];
  readonly to: readonly [number, number];
}

export interface RearView {
  readonly lines: readonly RearLine[];
  readonly surfaces: readonly { readonly id: ActuatorId; readonly lines: readonly RearLine[] }[];
  readonly motors: readonly {
    readonly id: ActuatorId;
    readonly at: readonly [number, number];
    readonly radius: number;
    readonly flat: boolean;
  }[];
  readonly bodyRadius: number;
}

/** The craft from behind, to scale. */
export function rearView(airframe: Airframe): RearView {
  const along = (plan: Planform, side: number, t: number): readonly [number, number] => {
    if (!plan.pair) return [0, plan.upM + t * plan.spanM];
    const out = (t * plan.spanM) / 2;
    const gamma = plan.dihedralDeg * DEG;
    return [side * (plan.rootRightM + out * Math.cos(gamma)), plan.upM + out * Math.sin(gamma)];
  };
  const span = (plan: Planform, side: number, from: number, to: number): RearLine => ({
    from: along(plan, side, from),
    to: along(plan, side, to),
  });
  const arms: RearLine[] = isRotorcraft(airframe)
    ? airframe.motors.map((m) => ({ from: [0, 0], to: [m.rightM, m.upM] }))
    : [];
  return {
    lines: [...airframe.planforms.flatMap((p) => sidesOf(p).map((side) => span(p, side, 0, 1))), ...arms],
    surfaces: airframe.surfaces.map((s) => {
      const plan = airframe.planforms.find((p) => p.id === s.on);
      if (!plan) {
        const m = airframe.motors.find((x) => x.tiltedBy === s.id);
        const x = m?.rightM ?? 0;
        return { id: s.id, lines: [{ from: [x, -0.03], to: [x, 0.04] }] };
      }
      const sides = s.id.startsWith('left-') ? [-1] : s.id.startsWith('right-') ? [1] : sidesOf(plan);
      return { id: s.id, lines: sides.map((side) => span(plan, side, s.from, s.to)) };
    }),
    motors: airframe.motors.map((m) => ({
      id: m.id,
      at: [m.rightM, m.upM] as const,
      radius: m.propDiameterM / 2,
      flat: m.thrust === 'up',
    })),
    bodyRadius: airframe.bodyHeightM / 2,
  };
}
