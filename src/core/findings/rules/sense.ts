import { isRotorcraft } from '../../airframe/airframe.ts';
import { eastOf, northOf, type Place } from '../../navigation/earth.ts';
import { changedSince, type Proof, type ProofWorld, stateOf } from '../../proofs/proofs.ts';
import type { Seen } from '../../proofs/seen.ts';
import { settingOf } from '../../settings/typed.ts';
import { finding, type Rule } from '../rule.ts';

/** What a board was never taught, or was taught badly: said once a board was met, since before nobody could. */

interface Evidence {
  readonly proofs: readonly Proof[];
  readonly world: ProofWorld;
}

const isProven = ({ proofs, world }: Evidence, id: string) =>
  stateOf(
    proofs.find((p) => p.id === id),
    world,
  ) === 'proven';

/** What was seen and nothing has changed since, good or bad. */
function seenNow<K extends Seen['kind']>(
  { proofs, world }: Evidence,
  kind: K,
): readonly Extract<Seen, { kind: K }>[] {
  return proofs.flatMap((p) =>
    p.seen.kind === kind && changedSince(p, world).length === 0 ? [p.seen as Extract<Seen, { kind: K }>] : [],
  );
}

/** With a board that was met. */
const met =
  (rule: (e: Evidence, input: Parameters<Rule>[0]) => ReturnType<Rule>): Rule =>
  (input) =>
    input.evidence && input.evidence.world.board.serial !== '' ? rule(input.evidence, input) : [];

const mountingUnconfirmed = met((e) =>
  isProven(e, 'mounted')
    ? []
    : [
        finding(
          'mounting-unconfirmed',
          'caution',
          'mounted',
          'Nobody has seen that the board knows how it is mounted',
          'A board that is turned in its mount rolls or dives as soon as it levels. Two gestures find it, a third proves it; that takes a minute.',
          ['mount.roll', 'mount.pitch', 'mount.yaw'],
        ),
      ],
);

/** Of the pull that a pose has to have, m/s^2; twice what the usual filters take for a tilt of half a degree. */
const ACCEL_LEFT = 0.1;

const accelResidual = met((e) =>
  seenNow(e, 'accel')
    .filter((seen) => seen.left >= ACCEL_LEFT)
    .map(({ chip, left }) =>
      finding(
        `accel-residual.${chip}`,
        'caution',
        'poses',
        'The accelerometer is off after it was taught',
        `In an attitude that was none of the six it felt ${left.toFixed(2)} m/s² too much or too little. A pose was taken while it leaned or moved, or the chip is bad: take the six poses again.`,
        [],
      ),
    ),
);

const levelMissing = met((e) =>
  isProven(e, 'mounted') && !isProven(e, 'levelled')
    ? [
        finding(
          'level-missing',
          'caution',
          'level',
          'What level means was never said',
          isRotorcraft(e.world.airframe)
            ? 'A multirotor whose level is a degree off drifts off in a hover with that degree.'
            : 'A wing cruises nose-up by some degrees. Levelled at another angle than that it climbs or sinks until the height loop works against it.',
          ['mount.levelRoll', 'mount.levelPitch'],
        ),
      ]
    : [],
);

const distanceKm = (a: Place, b: Place) =>
  Math.hypot(northOf(a.lat, b.lat), eastOf(a.lat, a.lon, b.lon)) / 1000;

/** A compass that was taught farther away than this feels another field, km. */
const TAUGHT_NEAR_KM = 300;

const compassUntaught = met((e, { values }) => {
  if (settingOf(values, 'compass.fitted') !== true || isProven(e, 'compass')) return [];
  const taught = e.proofs.find((p) => p.seen.kind === 'compass');
  const far =
    taught?.seen.kind === 'compass'
      ? distanceKm({ lat: taught.seen.lat, lon: taught.seen.lon }, e.world.site.home)
      : 0;
  if (far > TAUGHT_NEAR_KM)
    return [
      finding(
        'compass-taught-elsewhere',
        'caution',
        'compass',
        'The compass was taught in another part of the earth',
        `That was ${Math.round(far)} km away, where the field has another strength and dips otherwise. Turn it through all directions once more here.`,
        ['compass.strength', 'compass.declination'],
      ),
    ];
  return [
    finding(
      'compass-untaught',
      'caution',
      'compass',
      'The compass was never taught',
      'The iron of the craft turns its headings by up to half a circle, and a hover with a wrong heading widens into a spiral.',
      ['compass.x', 'compass.y', 'compass.z'],
    ),
  ];
});

const compassByWires = met((e) =>
  seenNow(e, 'compass-current')
    .filter((seen) => seen.verdict === 'move-it')
    .map(({ perAmp, mostA }) =>
      finding(
        'compass-by-wires',
        'caution',
        'compass',
        'The motors’ current turns the compass',
        `${perAmp.toFixed(2)} µT for each ampere, up to ${mostA.toFixed(0)} A: under full power it points elsewhere than in a glide, by more than coefficients can take out. Move it away from the battery’s wire.`,
        [],
      ),
    ),
);

const voltsUnchecked = met((e) =>
  isProven(e, 'volts')
    ? []
    : [
        finding(
          'volts-unchecked',
          'caution',
          'volts',
          'The board’s voltage was never held against a meter',
          'Four per cent off is a fifth of the battery: low is said too late, or a return begins with plenty left. One reading of a meter settles it.',
          ['battery.scale'],
        ),
      ],
);

const baroPulled = met((e) =>
  seenNow(e, 'slipstream')
    .filter((seen) => seen.verdict === 'shield-it')
    .map(({ atCruiseM }) =>
      finding(
        'baro-pulled',
        'caution',
        'air',
        'The slipstream pulls at the barometer',
        `At cruise it is fooled by ${Math.abs(atCruiseM).toFixed(0)} m, so the craft flies that much ${atCruiseM > 0 ? 'lower' : 'higher'} than it believes, and lower or higher again with each change of speed. Put open foam over the chip, then blow at it once more.`,
        [],
      ),
    ),
);

export const senseRules: readonly Rule[] = [
  mountingUnconfirmed,
  accelResidual,
  levelMissing,
  compassUntaught,
  compassByWires,
  voltsUnchecked,
  baroPulled,
];
