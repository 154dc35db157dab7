import type { Kind } from './actuators.ts';
import type { Airframe, Motor, Planform, Surface } from './airframe.ts';

const motor = (
  id: Motor['id'],
  place: readonly [aftM: number, rightM: number, upM: number],
  drive: Pick<
    Motor,
    'propDiameterM' | 'propPitchM' | 'kvRpmPerV' | 'resistanceOhm' | 'idleCurrentA' | 'maxCurrentA'
  >,
  more: Partial<Motor> = {},
): Motor => ({
  id,
  aftM: place[0],
  rightM: place[1],
  upM: place[2],
  thrust: 'forward',
  spin: 'clockwise',
  ...drive,
  ...more,
});

const planform = (
  p: Omit<
    Planform,
    | 'rootRightM'
    | 'washoutDeg'
    | 'zeroLiftDeg'
    | 'sectionMoment'
    | 'incidenceDeg'
    | 'dihedralDeg'
    | 'upM'
    | 'pair'
  > &
    Partial<Planform>,
): Planform => ({
  pair: true,
  rootRightM: 0,
  upM: 0,
  dihedralDeg: 0,
  incidenceDeg: 0,
  washoutDeg: 0,
  zeroLiftDeg: 0,
  sectionMoment: 0,
  ...p,
});

const both = (
  name: 'aileron' | 'elevon' | 'ruddervator' | 'rudder' | 'flap',
  rest: Omit<Surface, 'id'>,
): Surface[] => [
  { id: `left-${name}`, ...rest },
  { id: `right-${name}`, ...rest },
];

const turnstoneDrive = {
  propDiameterM: 0.229,
  propPitchM: 0.152,
  kvRpmPerV: 900,
  resistanceOhm: 0.06,
  idleCurrentA: 0.7,
  maxCurrentA: 28,
};

/** Turnstone 1600, the demo craft: twin with differential thrust, conventional tail, ailerons. */
export const turnstone: Airframe = {
  name: 'Turnstone 1600',
  kind: 'conventional',
  massKg: 2.1,
  cgAftM: 0.42,
  lengthM: 1.12,
  bodyWidthM: 0.11,
  bodyHeightM: 0.12,
  bodyDragM2: 0.0042,
  launch: 'hand',
  planforms: [
    planform({
      id: 'wing',
      spanM: 1.6,
      rootChordM: 0.26,
      tipChordM: 0.18,
      rootAftM: 0.33,
      tipAftM: 0.36,
      dihedralDeg: 3.5,
      incidenceDeg: 3,
      liftMax: 1.25,
    }),
    planform({
      id: 'tail',
      spanM: 0.54,
      rootChordM: 0.17,
      tipChordM: 0.13,
      rootAftM: 0.94,
      tipAftM: 0.97,
      upM: 0.03,
      incidenceDeg: 0.5,
      liftMax: 0.95,
    }),
    planform({
      id: 'fin',
      pair: false,
      spanM: 0.24,
      rootChordM: 0.19,
      tipChordM: 0.12,
      rootAftM: 0.91,
      tipAftM: 0.98,
      upM: 0.03,
      liftMax: 0.95,
    }),
  ],
  surfaces: [
    ...both('aileron', { on: 'wing', from: 0.56, to: 0.96, chordShare: 0.24, throwDeg: 22 }),
    { id: 'elevator', on: 'tail', from: 0.04, to: 1, chordShare: 0.36, throwDeg: 24 },
    { id: 'rudder', on: 'fin', from: 0.02, to: 1, chordShare: 0.38, throwDeg: 26 },
  ],
  motors: [
    motor('left-motor', [0.24, -0.27, 0], turnstoneDrive, { spin: 'clockwise' }),
    motor('right-motor', [0.24, 0.27, 0], turnstoneDrive, { spin: 'anticlockwise' }),
  ],
  battery: { chemistry: 'lipo', cells: 4, capacityMah: 5000, cellResistanceOhm: 0.0035 },
};

/** Sandpiper 1900: V-tail pusher motor glider with flaps. */
export const sandpiper: Airframe = {
  name: 'Sandpiper 1900',
  kind: 'v-tail',
  massKg: 1.6,
  cgAftM: 0.413,
  lengthM: 1.15,
  bodyWidthM: 0.1,
  bodyHeightM: 0.13,
  bodyDragM2: 0.0035,
  launch: 'hand',
  planforms: [
    planform({
      id: 'wing',
      spanM: 1.9,
      rootChordM: 0.21,
      tipChordM: 0.13,
      rootAftM: 0.33,
      tipAftM: 0.36,
      upM: 0.03,
      dihedralDeg: 4.5,
      incidenceDeg: 2.5,
      zeroLiftDeg: -1.5,
      sectionMoment: -0.03,
      washoutDeg: 1,
      liftMax: 1.3,
    }),
    planform({
      id: 'tail',
      spanM: 0.66,
      rootChordM: 0.15,
      tipChordM: 0.1,
      rootAftM: 0.98,
      tipAftM: 1.02,
      upM: 0.02,
      dihedralDeg: 38,
      incidenceDeg: 0,
      liftMax: 0.95,
    }),
  ],
  surfaces: [
    ...both('aileron', { on: 'wing', from: 0.6, to: 0.97, chordShare: 0.24, throwDeg: 22 }),
    ...both('flap', { on: 'wing', from: 0.08, to: 0.58, chordShare: 0.24, throwDeg: 35 }),
    ...both('ruddervator', { on: 'tail', from: 0.05, to: 1, chordShare: 0.4, throwDeg: 26 }),
  ],
  motors: [
    motor('motor', [0.56, 0, 0.09], {
      propDiameterM: 0.229,
      propPitchM: 0.152,
      kvRpmPerV: 1250,
      resistanceOhm: 0.045,
      idleCurrentA: 0.9,
      maxCurrentA: 45,
    }),
  ],
  battery: { chemistry: 'lipo', cells: 3, capacityMah: 4500, cellResistanceOhm: 0.004 },
};

/** Dunlin 900: flying wing, two elevons, pusher. No compass. */
export const dunlin: Airframe = {
  name: 'Dunlin 900',
  kind: 'wing',
  massKg: 0.72,
  cgAftM: 0.19,
  lengthM: 0.42,
  bodyWidthM: 0.09,
  bodyHeightM: 0.07,
  bodyDragM2: 0.0022,
  launch: 'hand',
  planforms: [
    planform({
      id: 'wing',
      spanM: 0.9,
      rootChordM: 0.3,
      tipChordM: 0.19,
      rootAftM: 0.05,
      tipAftM: 0.25,
      dihedralDeg: 1,
      incidenceDeg: 0,
      washoutDeg: 2,
      zeroLiftDeg: -0.5,
      sectionMoment: 0.012,
      liftMax: 1.05,
    }),
    planform({
      id: 'fin',
      pair: true,
      rootRightM: 0.45,
      spanM: 0.24,
      rootChordM: 0.16,
      tipChordM: 0.1,
      rootAftM: 0.3,
      tipAftM: 0.37,
      dihedralDeg: 85,
      liftMax: 0.9,
    }),
  ],
  surfaces: both('elevon', { on: 'wing', from: 0.28, to: 0.97, chordShare: 0.25, throwDeg: 24 }),
  motors: [
    motor('motor', [0.4, 0, 0.01], {
      propDiameterM: 0.152,
      propPitchM: 0.102,
      kvRpmPerV: 2100,
      resistanceOhm: 0.06,
      idleCurrentA: 0.9,
      maxCurrentA: 28,
    }),
  ],
  battery: { chemistry: 'lipo', cells: 3, capacityMah: 2600, cellResistanceOhm: 0.005 },
};

/** Knot 1200: delta with two rudders. */
export const knot: Airframe = {
  name: 'Knot 1200',
  kind: 'delta',
  massKg: 1.3,
  cgAftM: 0.4,
  lengthM: 0.86,
  bodyWidthM: 0.11,
  bodyHeightM: 0.09,
  bodyDragM2: 0.0036,
  launch: 'hand',
  planforms: [
    planform({
      id: 'wing',
      spanM: 1.2,
      rootChordM: 0.56,
      tipChordM: 0.16,
      rootAftM: 0.2,
      tipAftM: 0.56,
      dihedralDeg: 1.5,
      incidenceDeg: 0,
      washoutDeg: 1.5,
      zeroLiftDeg: -0.3,
      sectionMoment: 0.01,
      liftMax: 1.05,
    }),
    planform({
      id: 'fin',
      pair: true,
      rootRightM: 0.3,
      spanM: 0.34,
      rootChordM: 0.2,
      tipChordM: 0.12,
      rootAftM: 0.58,
      tipAftM: 0.65,
      upM: 0.01,
      dihedralDeg: 80,
      liftMax: 0.9,
    }),
  ],
  surfaces: [
    ...both('elevon', { on: 'wing', from: 0.3, to: 0.97, chordShare: 0.22, throwDeg: 24 }),
    ...both('rudder', { on: 'fin', from: 0.05, to: 1, chordShare: 0.35, throwDeg: 25 }),
  ],
  motors: [
    motor('motor', [0.8, 0, 0.02], {
      propDiameterM: 0.203,
      propPitchM: 0.152,
      kvRpmPerV: 1100,
      resistanceOhm: 0.05,
      idleCurrentA: 0.9,
      maxCurrentA: 40,
    }),
  ],
  battery: { chemistry: 'lipo', cells: 4, capacityMah: 3300, cellResistanceOhm: 0.004 },
};

const avocetDrive = {
  propDiameterM: 0.178,
  propPitchM: 0.102,
  kvRpmPerV: 1050,
  resistanceOhm: 0.09,
  idleCurrentA: 0.5,
  maxCurrentA: 30,
};

/** Where rotors stand and which way they turn: degrees right of straight ahead; lower ones turn the other way. */
const rotorPlaces: Partial<
  Record<Kind, readonly (readonly [Motor['id'], number, Motor['spin'], boolean?])[]>
> = {
  'quad-x': [
    ['front-right-motor', 45, 'anticlockwise'],
    ['rear-right-motor', 135, 'clockwise'],
    ['rear-left-motor', -135, 'anticlockwise'],
    ['front-left-motor', -45, 'clockwise'],
  ],
  'quad-plus': [
    ['front-motor', 0, 'anticlockwise'],
    ['right-motor', 90, 'clockwise'],
    ['rear-motor', 180, 'anticlockwise'],
    ['left-motor', -90, 'clockwise'],
  ],
  hex: [
    ['front-right-motor', 30, 'anticlockwise'],
    ['right-motor', 90, 'clockwise'],
    ['rear-right-motor', 150, 'anticlockwise'],
    ['rear-left-motor', -150, 'clockwise'],
    ['left-motor', -90, 'anticlockwise'],
    ['front-left-motor', -30, 'clockwise'],
  ],
  y6: [
    ['front-right-motor', 60, 'anticlockwise'],
    ['front-right-lower-motor', 60, 'clockwise', true],
    ['rear-motor', 180, 'anticlockwise'],
    ['rear-lower-motor', 180, 'clockwise', true],
    ['front-left-motor', -60, 'anticlockwise'],
    ['front-left-lower-motor', -60, 'clockwise', true],
  ],
  tri: [
    ['front-right-motor', 60, 'anticlockwise'],
    ['rear-motor', 180, 'clockwise'],
    ['front-left-motor', -60, 'clockwise'],
  ],
};

type Drive = typeof avocetDrive;

function rotors(kind: Kind, centreAftM: number, armM: number, drive: Drive): Motor[] {
  return (rotorPlaces[kind] ?? []).map(([id, deg, spin, lower]) => {
    const a = (deg * Math.PI) / 180;
    const place = [centreAftM - armM * Math.cos(a), armM * Math.sin(a), lower ? -0.03 : 0.03] as const;
    const more: Partial<Motor> = { thrust: 'up', spin };
    if (kind === 'tri' && id === 'rear-motor') more.tiltedBy = 'tail-servo';
    return motor(id, [round(place[0]), round(place[1]), place[2]], drive, more);
  });
}

const round = (x: number) => Math.round(x * 1e4) / 1e4;

function multirotor(
  base: Pick<Airframe, 'name' | 'kind' | 'massKg' | 'lengthM' | 'bodyDragM2' | 'battery'>,
  armM: number,
  drive: Drive,
): Airframe {
  const centre = base.lengthM / 2;
  return {
    ...base,
    cgAftM: centre,
    bodyWidthM: 0.07,
    bodyHeightM: 0.06,
    launch: 'hover',
    planforms: [],
    surfaces:
      base.kind === 'tri'
        ? [{ id: 'tail-servo', on: 'motor', from: 0, to: 1, chordShare: 0.5, throwDeg: 35 }]
        : [],
    motors: rotors(base.kind, centre, armM, drive),
  };
}

/** Avocet 7: long-range quad with 7-inch propellers. */
export const avocet = multirotor(
  {
    name: 'Avocet 7',
    kind: 'quad-x',
    massKg: 0.95,
    lengthM: 0.24,
    bodyDragM2: 0.0085,
    battery: { chemistry: 'li-ion', cells: 6, capacityMah: 3000, cellResistanceOhm: 0.014 },
  },
  0.16,
  avocetDrive,
);

/** Ruff Tri: tricopter with tail servo. */
export const ruff = multirotor(
  {
    name: 'Ruff Tri',
    kind: 'tri',
    massKg: 0.9,
    lengthM: 0.3,
    bodyDragM2: 0.0095,
    battery: { chemistry: 'lipo', cells: 4, capacityMah: 2800, cellResistanceOhm: 0.005 },
  },
  0.24,
  {
    propDiameterM: 0.203,
    propPitchM: 0.114,
    kvRpmPerV: 1150,
    resistanceOhm: 0.08,
    idleCurrentA: 0.6,
    maxCurrentA: 28,
  },
);

/** The six craft of the group on Torvholm. */
export const flock = [turnstone, sandpiper, dunlin, knot, avocet, ruff] as const;

/** Plain beginnings for a craft that is none of these: the kind a person names, to be given its own dimensions. */
export function plainCraft(kind: Kind): Airframe {
  switch (kind) {
    case 'conventional': {
      const { motors, ...rest } = turnstone;
      return {
        ...rest,
        name: 'My craft',
        motors: [motor('motor', [0.02, 0, 0], { ...turnstoneDrive, maxCurrentA: 45, resistanceOhm: 0.035 })],
      };
    }
    case 'v-tail':
      return { ...sandpiper, name: 'My V-tail' };
    case 'wing':
      return { ...dunlin, name: 'My wing' };
    case 'delta':
      return { ...knot, name: 'My delta' };
    case 'tri':
      return { ...ruff, name: 'My tricopter' };
    default: {
      const many = kind === 'hex' || kind === 'y6';
      return multirotor(
        {
          name: `My ${kind === 'y6' ? 'Y6' : kind === 'hex' ? 'hex' : 'quad'}`,
          kind,
          massKg: many ? 1.5 : 0.95,
          lengthM: 0.24,
          bodyDragM2: many ? 0.012 : 0.0085,
          battery: {
            chemistry: 'lipo',
            cells: 6,
            capacityMah: many ? 5000 : 3000,
            cellResistanceOhm: 0.005,
          },
        },
        many ? 0.24 : 0.16,
        avocetDrive,
      );
    }
  }
}
