import { isRotorcraft } from '../../airframe/airframe.ts';
import { hoverOf, stallSpeed, turnRadius } from '../../airframe/performance.ts';
import { DEG } from '../../math/scalar.ts';
import { GROUND_MARGIN_M, groundInReach } from '../../navigation/returnPlan.ts';
import { settingOf } from '../../settings/typed.ts';
import { formatQuantity as q } from '../../units/units.ts';
import { finding, num, type Rule } from '../rule.ts';

const returnHeight: Rule = ({ values, ground, units }) => {
  const height = num(values, 'return.height');
  if (settingOf(values, 'return.climb') === 'keep-height') {
    return [
      finding(
        'return-keeps-height',
        'caution',
        'way-home',
        'The way home keeps whatever height it begins at',
        'A link lost low behind a hill leads straight into the hill.',
        ['return.climb'],
        {
          label: 'Keep at least the return height',
          edits: { 'return.climb': 'at-least' },
        },
      ),
    ];
  }
  if (height < GROUND_MARGIN_M) {
    return [
      finding(
        'return-low',
        'blocks',
        'way-home',
        `The return height of ${q(height, 'm', units)} is too close to the launch ground`,
        `Below ${q(GROUND_MARGIN_M, 'm', units, 0)} a sink in wind or a tree ends the way home.`,
        ['return.height'],
        {
          label: `Return at ${q(60, 'm', units, 0)}`,
          edits: { 'return.height': 60 },
        },
      ),
    ];
  }
  if (!ground) return [];
  const { top, homeM: home, needM: need } = groundInReach(ground);
  if (height >= need - 5) return [];
  return [
    finding(
      'return-below-ridge',
      'blocks',
      'way-home',
      `The return height is ${q(top.heightM - home - height, 'm', units, 0)} below the highest ground in reach`,
      `${(top.distanceM / 1000).toFixed(1)} km from home the ground rises to ${q(top.heightM, 'm', units, 0)} above the sea, ${q(top.heightM - home, 'm', units, 0)} above home. A straight way home can lead into it.`,
      ['return.height'],
      { label: `Return at ${q(need, 'm', units, 0)} above home`, edits: { 'return.height': need } },
    ),
  ];
};

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
  const better = Math.max(5, Math.floor(2 * 0.6 * top) / 2);
  return [
    finding(
      'return-fast',
      'caution',
      'way-home',
      `Leaning ${tilt}° it flies ${q(top, 'm/s', units, 0)} in still air, hardly more than the return speed`,
      'Any headwind then leaves it slower than asked, or standing.',
      ['return.speed', 'hover.tilt'],
      { label: `Return at ${q(better, 'm/s', units)}`, edits: { 'return.speed': better } },
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
