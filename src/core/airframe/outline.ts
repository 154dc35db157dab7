import { DEG } from '../math/scalar.ts';
import type { ActuatorId, Airframe, Planform, Surface } from './airframe.ts';

/** A closed shape in metres: x to the right, y aft of the nose (from above) or up (from behind). */
export type Polygon = readonly (readonly [x: number, y: number])[];

export interface ActuatorShape {
  readonly id: ActuatorId;
  readonly polygons: readonly Polygon[];
  readonly centre: readonly [x: number, y: number];
}

export interface TopView {
  readonly body: Polygon;
  readonly wing: Polygon;
  readonly tail: Polygon;
  readonly surfaces: readonly ActuatorShape[];
  readonly motors: readonly (ActuatorShape & { readonly discRadius: number })[];
  readonly width: number;
  readonly length: number;
}

function halfEdges(plan: Planform, side: number, from: number, to: number, aftShare: number): Polygon {
  const at = (t: number) => {
    const x = (side * t * plan.spanM) / 2;
    const lead = plan.rootAftM + (plan.tipAftM - plan.rootAftM) * t;
    const chord = plan.rootChordM + (plan.tipChordM - plan.rootChordM) * t;
    return { x, top: lead + chord * (1 - aftShare), low: lead + chord };
  };
  const a = at(from);
  const b = at(to);
  return [
    [a.x, a.top],
    [b.x, b.top],
    [b.x, b.low],
    [a.x, a.low],
  ];
}

function planformOutline(plan: Planform): Polygon {
  const right = halfEdges(plan, 1, 0, 1, 1);
  const left = halfEdges(plan, -1, 0, 1, 1);
  return [right[0]!, right[1]!, right[2]!, right[3]!, left[2]!, left[1]!];
}

const centreOf = (polygons: readonly Polygon[]): readonly [number, number] => {
  const points = polygons.flat();
  const sum = points.reduce((s, p) => [s[0] + p[0], s[1] + p[1]] as const, [0, 0] as const);
  return [sum[0] / points.length, sum[1] / points.length];
};

function surfaceFromAbove(airframe: Airframe, s: Surface): ActuatorShape {
  if (s.on === 'fin') {
    const rear = airframe.fin.rootAftM + airframe.fin.rootChordM;
    const chord = airframe.fin.rootChordM * s.chordShare;
    const w = 0.012;
    const polygon: Polygon = [
      [-w, rear - chord],
      [w, rear - chord],
      [w * 0.6, rear + 0.01],
      [-w * 0.6, rear + 0.01],
    ];
    return { id: s.id, polygons: [polygon], centre: centreOf([polygon]) };
  }
  const plan = s.on === 'wing' ? airframe.wing : airframe.tail;
  const sides = s.id.startsWith('left-') ? [-1] : s.id.startsWith('right-') ? [1] : [-1, 1];
  const polygons = sides.map((side) => halfEdges(plan, side, s.from, s.to, s.chordShare));
  return { id: s.id, polygons, centre: centreOf(polygons) };
}

/** The craft from above, to scale, from its dimensions. */
export function topView(airframe: Airframe): TopView {
  const w = airframe.bodyWidthM / 2;
  const l = airframe.lengthM;
  const body: Polygon = [
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
  ]; // prettier-ignore
  return {
    body,
    wing: planformOutline(airframe.wing),
    tail: planformOutline(airframe.tail),
    surfaces: airframe.surfaces.map((s) => surfaceFromAbove(airframe, s)),
    motors: airframe.motors.map((m) => {
      const h = 0.032;
      const nacelle: Polygon = [
        [m.rightM - h, m.aftM + 0.02],
        [m.rightM + h, m.aftM + 0.02],
        [m.rightM + h, airframe.wing.rootAftM + 0.45 * airframe.wing.rootChordM],
        [m.rightM - h, airframe.wing.rootAftM + 0.45 * airframe.wing.rootChordM],
      ];
      return {
        id: m.id,
        polygons: [nacelle],
        centre: [m.rightM, m.aftM] as const,
        discRadius: m.propDiameterM / 2,
      };
    }),
    width: airframe.wing.spanM,
    length: Math.max(l, airframe.fin.rootAftM + airframe.fin.rootChordM),
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
  }[];
  readonly bodyRadius: number;
}

/** The craft from behind, to scale. */
export function rearView(airframe: Airframe): RearView {
  const along = (plan: Planform, side: number, t: number): readonly [number, number] => {
    const x = (side * t * plan.spanM) / 2;
    return [x, plan.upM + Math.abs(x) * Math.tan(plan.dihedralDeg * DEG)];
  };
  const span = (plan: Planform, side: number, from: number, to: number): RearLine => ({
    from: along(plan, side, from),
    to: along(plan, side, to),
  });
  const fin = (from: number, to: number): RearLine => ({
    from: [0, airframe.fin.upM + from * airframe.fin.spanM],
    to: [0, airframe.fin.upM + to * airframe.fin.spanM],
  });
  return {
    lines: [
      span(airframe.wing, -1, 0, 1),
      span(airframe.wing, 1, 0, 1),
      span(airframe.tail, -1, 0, 1),
      span(airframe.tail, 1, 0, 1),
      fin(0, 1),
    ], // prettier-ignore
    surfaces: airframe.surfaces.map((s) => {
      if (s.on === 'fin') return { id: s.id, lines: [fin(s.from, s.to)] };
      const plan = s.on === 'wing' ? airframe.wing : airframe.tail;
      const sides = s.id.startsWith('left-') ? [-1] : s.id.startsWith('right-') ? [1] : [-1, 1];
      return { id: s.id, lines: sides.map((side) => span(plan, side, s.from, s.to)) };
    }),
    motors: airframe.motors.map((m) => ({
      id: m.id,
      at: [m.rightM, m.upM] as const,
      radius: m.propDiameterM / 2,
    })),
    bodyRadius: airframe.bodyHeightM / 2,
  };
}
