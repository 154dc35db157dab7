import { isRotorcraft } from '../../airframe/airframe.ts';
import { hoverOf, stallSpeed, turnRadius } from '../../airframe/performance.ts';
import { DEG } from '../../math/scalar.ts';
import { climbRules, GROUND_MARGIN_M, groundInReach } from '../../navigation/returnPlan.ts';
import { LINE_M, mendedWay, nearestAbout, USUAL_START_M, type WayHome } from '../../navigation/wayProfile.ts';
import type { Values } from '../../settings/catalogue.ts';
import { formatQuantity as q } from '../../units/units.ts';
import { finding, num, type Rule } from '../rule.ts';

const returnHeight: Rule = ({ values, ground, units, catalogue }) => {
  const way = wayOf(values);
  if (!way) return [];
  const { returnM: height } = way;
  const climbName = (rule: string) =>
    catalogue.entry('return.climb')?.choices?.find((c) => c.value === rule)?.label ?? rule;
  if (way.rule === 'keep-height') {
    return [
      finding(
        'return-keeps-height',
        'caution',
        'way-home',
        'The way home keeps whatever height it begins at',
        'A link lost low behind a hill leads straight into the hill.',
        ['return.climb'],
        {
          label: `On return: ${climbName('climb-first')}`,
          edits: { 'return.climb': 'climb-first' },
        },
      ),
    ];
  }
  if (height < GROUND_MARGIN_M) {
    const better = ground ? Math.max(60, groundInReach(ground).needM) : 60;
    return [
      finding(
        'return-low',
        'blocks',
        'way-home',
        `The return height of ${q(height, 'm', units)} is too close to the launch ground`,
        `Below ${q(GROUND_MARGIN_M, 'm', units, 0)} a sink in wind or a tree ends the way home.`,
        ['return.height'],
        {
          label: `Return at ${q(better, 'm', units, 0)}`,
          edits: { 'return.height': better, ...(ground ? { 'return.climb': 'climb-first' } : {}) },
        },
      ),
    ];
  }
  if (!ground) return [];
  const { top, homeM: home, needM: need } = groundInReach(ground);
  const change = mendedWay(ground, way, need);
  if (!change) return [];
  const edits = {
    ...(change.returnM === undefined ? {} : { 'return.height': change.returnM }),
    ...(change.rule === undefined ? {} : { 'return.climb': change.rule }),
  };
  const label = [
    ...(change.rule === undefined ? [] : [`On return: ${climbName(change.rule)}`]),
    ...(change.returnM === undefined ? [] : [`return at ${q(change.returnM, 'm', units, 0)} above home`]),
  ].join('; ');
  const fix = { label: label[0]!.toUpperCase() + label.slice(1), edits };
  if (height < need - 5)
    return [
      finding(
        'return-below-ridge',
        'blocks',
        'way-home',
        `The return height is ${q(top.heightM - home - height, 'm', units, 0)} below the highest ground in reach`,
        `${q(top.distanceM, 'm', units, 0)} from home the ground rises to ${q(top.heightM, 'm', units, 0)} above the sea, ${q(top.heightM - home, 'm', units, 0)} above home. A straight way home can lead into it.`,
        ['return.height', 'return.climb'],
        fix,
      ),
    ];
  const nearest = nearestAbout(ground, way);
  return [
    finding(
      'return-climbs-late',
      'blocks',
      'way-home',
      nearest.clearanceM < 0
        ? `The way home climbs too late: it is ${q(-nearest.clearanceM, 'm', units, 0)} below the ridge there`
        : `The way home climbs too late: it passes ${q(nearest.clearanceM, 'm', units, 0)} above the ground`,
      `With the link lost ${q(LINE_M, 'm', units, 0)} out on bearing ${nearest.bearingDeg}°, ${q(way.startM, 'm', units, 0)} above home, it climbs on the way and is not high enough ${q(nearest.distanceM, 'm', units, 0)} from home. A return height alone does not help: it has to climb before it turns for home.`,
      ['return.climb', 'nav.climb'],
      fix,
    ),
  ];
};

/** The way home as it is set; null for a board that does not have all of its settings. */
function wayOf(values: Values): WayHome | null {
  const rule = climbRules.find((r) => r === values['return.climb']);
  const number = (key: string) => (typeof values[key] === 'number' ? (values[key] as number) : null);
  const [returnM, speedMps, climbMps] = ['return.height', 'return.speed', 'nav.climb'].map(number);
  if (!rule || returnM == null || !speedMps || !climbMps) return null;
  const radius = number('loiter.radius') ?? 75;
  return { rule, returnM, speedMps, climbMps, startM: USUAL_START_M, endsM: 4 * radius };
}

const loiterRadius: Rule = ({ values, airframe, units }) => {
  if (isRotorcraft(airframe)) return [];
  const least = turnRadius(num(values, 'return.speed'), num(values, 'level.bank') * DEG);
  const radius = num(values, 'loiter.radius');
  if (radius >= least) return [];
  const better = Math.ceil((1.5 * least) / 5) * 5;
  return [
    finding(
      'loiter-tight',
      'blocks',
      'way-home',
      `A circle of ${q(radius, 'm', units)} is tighter than the craft can turn`,
      `At ${q(num(values, 'return.speed'), 'm/s', units)} and ${num(values, 'level.bank')}° of bank the turn radius is ${q(least, 'm', units, 0)}, before any wind.`,
      ['loiter.radius', 'level.bank', 'return.speed'],
      {
        label: `Circle with ${q(better, 'm', units, 0)}`,
        edits: { 'loiter.radius': better },
      },
    ),
  ];
};

const returnSpeed: Rule = ({ values, airframe, units }) => {
  if (isRotorcraft(airframe)) return [];
  const least = 1.3 * stallSpeed(airframe);
  const speed = num(values, 'return.speed');
  if (speed >= least) return [];
  const better = Math.ceil(2 * 1.7 * stallSpeed(airframe)) / 2;
  return [
    finding(
      'return-slow',
      'blocks',
      'way-home',
      `The return speed of ${q(speed, 'm/s', units)} is too near the stall`,
      `This craft stalls at ${q(stallSpeed(airframe), 'm/s', units, 1)}; the way home needs at least 1.3 times that, ${q(least, 'm/s', units, 1)}.`,
      ['return.speed'],
      {
        label: `Return at ${q(better, 'm/s', units)}`,
        edits: { 'return.speed': better },
      },
    ),
  ];
};

const bankStall: Rule = ({ values, airframe, units }) => {
  if (isRotorcraft(airframe)) return [];
  const bank = num(values, 'level.bank') * DEG;
  const stall = stallSpeed(airframe) / Math.sqrt(Math.cos(bank));
  const slowest = Math.min(num(values, 'nav.speed'), num(values, 'return.speed'));
  if (slowest >= 1.1 * stall) return [];
  return [
    finding(
      'bank-stall',
      'blocks',
      'way-home',
      `At ${num(values, 'level.bank')}° of bank it stalls at ${q(stall, 'm/s', units, 1)}`,
      `Navigation flies as slowly as ${q(slowest, 'm/s', units)}. A tight turn would stall the inner wing.`,
      ['level.bank', 'nav.speed', 'return.speed'],
      {
        label: 'Limit the bank to 40°',
        edits: { 'level.bank': 40 },
      },
    ),
  ];
};

const speedFloor: Rule = ({ values, airframe, units }) => {
  if (isRotorcraft(airframe)) return [];
  const least = 1.1 * stallSpeed(airframe);
  if (num(values, 'nav.speedFloor') >= least) return [];
  const better = Math.ceil(2 * 1.25 * stallSpeed(airframe)) / 2;
  return [
    finding(
      'floor-low',
      'caution',
      'way-home',
      'The least airspeed lies at the stall',
      `Stall protection begins at ${q(num(values, 'nav.speedFloor'), 'm/s', units)}; the craft stalls at ${q(stallSpeed(airframe), 'm/s', units, 1)}.`,
      ['nav.speedFloor'],
      {
        label: `Protect below ${q(better, 'm/s', units)}`,
        edits: { 'nav.speedFloor': better },
      },
    ),
  ];
};

/** A rotorcraft makes way by leaning; wind takes part of what its tilt limit gives. */
const leanLimit: Rule = ({ values, airframe, units }) => {
  if (!isRotorcraft(airframe)) return [];
  const tilt = num(values, 'hover.tilt');
  const top = hoverOf(airframe).topSpeedMps(tilt * DEG);
  const speed = num(values, 'return.speed');
  if (speed <= 0.85 * top) return [];
  // Leaning more makes way against the wind; flying slower would only make less of it.
  const lean = [40, 45, 50].find(
    (deg) => deg > tilt && speed <= 0.85 * hoverOf(airframe).topSpeedMps(deg * DEG),
  );
  const better = Math.max(5, Math.floor(2 * 0.8 * top) / 2);
  return [
    finding(
      'return-fast',
      'caution',
      'way-home',
      `Leaning ${tilt}° it flies ${q(top, 'm/s', units, 0)} through still air, hardly more than the ${q(speed, 'm/s', units)} over ground that it is to return with`,
      'A headwind takes its part of what the lean gives: over ground it is then slower than asked, or stands.',
      ['return.speed', 'hover.tilt'],
      lean === undefined
        ? { label: `Return at ${q(better, 'm/s', units)}`, edits: { 'return.speed': better } }
        : { label: `Let it lean ${lean}°`, edits: { 'hover.tilt': lean } },
    ),
  ];
};

export const wayHomeRules: readonly Rule[] = [
  returnHeight,
  loiterRadius,
  returnSpeed,
  bankStall,
  speedFloor,
  leanLimit,
];
