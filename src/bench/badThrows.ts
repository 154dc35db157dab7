import { isRotorcraft } from '#core/airframe/airframe.ts';
import { launchOf } from '#core/airframe/launch.ts';
import type { Scenario } from '#core/formats/scenario.ts';
import type { SettingValue, Values } from '#core/settings/catalogue.ts';
import { settingOf } from '#core/settings/typed.ts';
import { Rehearsal, type RehearsalInput } from './rehearsal.ts';

/** Throws as they go wrong at a field, each with its name. */
const throwsTried = [
  { name: 'as it should be', thrown: { speedShare: 1, bankDeg: 0, pitchDeg: 8 } },
  { name: 'too slow', thrown: { speedShare: 0.7, bankDeg: 0, pitchDeg: 8 } },
  { name: 'banked', thrown: { speedShare: 1, bankDeg: 25, pitchDeg: 8 } },
  { name: 'nose up', thrown: { speedShare: 0.9, bankDeg: 0, pitchDeg: 35 } },
  { name: 'nose down', thrown: { speedShare: 1, bankDeg: 0, pitchDeg: -5 } },
] as const satisfies readonly { name: string; thrown: NonNullable<Scenario['thrown']> }[];

export interface ThrowFlown {
  readonly name: string;
  /** It flew on for as long as a launch takes. */
  readonly flew: boolean;
  /** Along the ground and above it, m, a quarter of a second apart. */
  readonly path: readonly (readonly [along: number, above: number])[];
  /** Lowest above the ground, and height at the end, m. */
  readonly lowestM: number;
  readonly endM: number;
  /** One setting by which it would have flown; null where it flew, or none would. */
  readonly saves: { readonly key: string; readonly value: SettingValue } | null;
  /** Why it was not flown at all; null where it was. */
  readonly notFlown: string | null;
}

const FLY_S = 12;
const TICK_MS = 20;
const PATH_TICKS = 12;
/** Lower than this at the end is not away. */
const AWAY_M = 4;

function flyOne(input: Omit<RehearsalInput, 'scenario'>, scenario: Scenario) {
  const rehearsal = new Rehearsal({ ...input, scenario: { ...scenario, events: [], limitS: FLY_S } });
  let lowestM = Number.POSITIVE_INFINITY;
  let endM = 0;
  const path: [number, number][] = [];
  const { position } = rehearsal.craft.plant;
  const from = [position[0]!, position[1]!] as const;
  let tick = 0;
  do {
    endM = rehearsal.craft.aboveGround;
    lowestM = Math.min(lowestM, endM);
    if (tick++ % PATH_TICKS === 0)
      path.push([Math.hypot(position[0]! - from[0], position[1]! - from[1]), endM]);
  } while (!rehearsal.advance(TICK_MS));
  const { verdict, reason } = rehearsal.result!;
  const flew = rehearsal.seconds >= FLY_S - 0.1 && endM > AWAY_M;
  return {
    flew,
    path,
    lowestM: Math.max(0, lowestM),
    endM,
    notFlown: verdict === 'not-flown' ? reason : null,
  };
}

/** What a builder would turn first, one setting at a time, from what is set now. */
function remedies(values: Values): readonly { readonly key: string; readonly value: SettingValue }[] {
  if ((settingOf(values, 'mode.launch.channel') ?? 0) < 1) {
    const taken = Object.entries(values).flatMap(([k, v]) => (k.endsWith('.channel') ? [v] : []));
    const free = [8, 9, 10, 11, 12].find((n) => !taken.includes(n));
    return free ? [{ key: 'mode.launch.channel', value: free }] : [];
  }
  const of = (key: string, value: SettingValue) => (values[key] === value ? [] : [{ key, value }]);
  return [
    ...of('launch.delay', 0.05),
    ...of('launch.throttle', 1),
    ...[10, 18, 24].flatMap((deg) => of('launch.pitch', deg)),
    ...of('launch.accel', 9),
  ];
}

/** Throws a craft in each of the ways, and looks for what would have saved those that failed. */
export function flyThrows(input: Omit<RehearsalInput, 'scenario'>, scenario: Scenario): ThrowFlown[] {
  const { airframe, values } = input;
  if (isRotorcraft(airframe) || !launchOf(airframe)) return [];
  return throwsTried.map(({ name, thrown }) => {
    const mine = { ...scenario, thrown };
    const flown = flyOne(input, mine);
    const saves =
      flown.flew || flown.notFlown !== null
        ? null
        : (remedies(values).find(
            ({ key, value }) => flyOne({ ...input, values: { ...values, [key]: value } }, mine).flew,
          ) ?? null);
    return { name, ...flown, saves };
  });
}
