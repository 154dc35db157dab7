import { actuatorNames } from '../../airframe/actuators.ts';
import { DEG } from '../../math/scalar.ts';
import { angleAt, endsOf, type MeasuredThrow, throwsSeen, twin, usFor } from '../../mixer/throws.ts';
import { settingOf } from '../../settings/typed.ts';
import { type FindingInput, finding, type Rule } from '../rule.ts';

/** Throws that were measured, against what the board is set to. */

/** A surface that stands off by more than this at rest is felt, deg. A wing without a tail is built with some reflex. */
const OFF_DEG = 3;
const REFLEX_DEG = 8;
/** Twins that differ by more than this roll the craft when both go the same way, deg. */
const UNLIKE_DEG = 2.5;

const deg = (angle: number) => (Math.abs(angle) / DEG).toFixed(1);
const way = (angle: number) => (angle > 0 ? 'down' : 'up');

const measured = ({ evidence }: FindingInput) =>
  evidence ? throwsSeen(evidence.proofs, evidence.world) : new Map<never, MeasuredThrow>();

/** A surface that does not stand where it should while nothing is asked of it. */
const atRest: Rule = (input) =>
  [...measured(input)].flatMap(([id, t]) => {
    const ends = endsOf(t, input.values);
    if (!ends) return [];
    // Of a pair that is trimmed alike to one side the craft may need it; of elevons a little up is usual.
    const free = id.endsWith('elevon') && ends.rest < 0 ? REFLEX_DEG : OFF_DEG;
    if (Math.abs(ends.rest) <= free * DEG) return [];
    const us = Math.round(usFor(t, 0));
    const [low, high] = ([`low`, 'high'] as const).map(
      (p) => settingOf(input.values, `out.${t.output}.${p}`)!,
    );
    const trims = us > low! + 150 && us < high! - 150;
    return [
      finding(
        `surface-off-centre.${id}`,
        'caution',
        'throws',
        `The ${actuatorNames[id]} stands ${deg(ends.rest)}° ${way(ends.rest)} at rest`,
        'It was measured so. The craft turns by itself for want of a straight surface: set it flush by its linkage first, and trim what is left.',
        [`out.${t.output}.centre`],
        trims ? { label: `Trim it flush at ${us} µs`, edits: { [`out.${t.output}.centre`]: us } } : undefined,
      ),
    ];
  });

/** An end of travel that lies beyond where the linkage follows: the servo presses against its own rod. */
const bound: Rule = (input) =>
  [...measured(input)].flatMap(([id, t]) => {
    const beyond = (['low', 'high'] as const).flatMap((end) => {
      const key = `out.${t.output}.${end}`;
      const us = settingOf(input.values, `out.${t.output}.${end}`);
      const free = end === 'low' ? Math.ceil(t.freeFromUs) : Math.floor(t.freeToUs);
      return us === undefined || (end === 'low' ? us >= free : us <= free) ? [] : [{ key, us, free }];
    });
    if (beyond.length === 0) return [];
    const { us, free } = beyond[0]!;
    const lines = beyond.map((e) => `${e.free} µs, ${deg(angleAt(t, e.free))}° ${way(angleAt(t, e.free))}`);
    return [
      finding(
        `linkage-binds.${id}`,
        'caution',
        'throws',
        `The ${actuatorNames[id]} binds before its end at ${us} µs`,
        `Its rod and arm are in line at ${lines.join(' and ')}. A servo that presses on grows hot and draws the rail down.`,
        beyond.map((e) => e.key),
        {
          label: beyond.length > 1 ? 'End both where it is free' : `End at ${free} µs`,
          edits: Object.fromEntries(beyond.map((e) => [e.key, e.free])),
        },
      ),
    ];
  });

/** Left and right that do not go as far: an elevator command rolls, a flap turns. */
const unlike: Rule = (input) => {
  const all = measured(input);
  return [...all].flatMap(([id, t]) => {
    const otherId = id.startsWith('left-') ? twin(input.airframe, id) : null;
    const other = otherId && all.get(otherId);
    const [a, b] = [endsOf(t, input.values), other && endsOf(other, input.values)];
    if (!a || !b) return [];
    const off = [b.up - a.up, b.down - a.down].sort((x, y) => Math.abs(y) - Math.abs(x))[0]!;
    if (Math.abs(off) <= UNLIKE_DEG * DEG) return [];
    const words = `up ${deg(a.up)}° and ${deg(b.up)}°, down ${deg(a.down)}° and ${deg(b.down)}°`;
    return [
      finding(
        `twins-unlike.${id}`,
        'caution',
        'throws',
        `Left and right ${actuatorNames[id].slice(5)} do not go alike`,
        `They were measured: ${words}. Set their ends in degrees, each for itself.`,
        [`out.${t.output}.low`, `out.${t.output}.high`],
      ),
    ];
  });
};

/** So much play a surface flutters by when the craft is fast, deg. */
const LOOSE_DEG = 2;

/** A surface that its servo does not hold. */
const loose: Rule = (input) =>
  [...measured(input)].flatMap(([id, { play }]) =>
    play === null || play <= LOOSE_DEG * DEG
      ? []
      : [
          finding(
            `surface-loose.${id}`,
            'caution',
            'throws',
            `The ${actuatorNames[id]} has ${deg(play)}° of play`,
            'It was read from both sides. Air moves it to and fro where its servo does not hold it, and it flutters when the craft is fast: look at the horn’s hole, the clevis and the servo’s gears, and measure it anew.',
            [],
          ),
        ],
  );

export const throwRules: readonly Rule[] = [atRest, bound, unlike, loose];
