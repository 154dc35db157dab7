import * as z from 'zod';
import { groundHeight, type Terrain } from '../flight/terrain.ts';
import { eastOf, northOf } from '../navigation/earth.ts';

/** Centre of Torvholm, where the terrain grid has its origin. */
export const TORVHOLM = { lat: 61.905, lon: -12.43 } as const;
const HALF_WIDTH_M = 5500;
const HALF_HEIGHT_M = 3000;
/** The decimal year of all demo data: the earth's field is that of then. */
export const FIELD_YEAR = 2026.4;
/** The strip at Mossvik. */
export const MOSSVIK = { lat: 61.883, lon: -12.43, heightM: 38 } as const;

const scenarioEvents = ['link-lost', 'link-back', 'return-switch-on', 'return-switch-off'] as const;
export const faultDevices = [
  'gyro',
  'barometer',
  'compass',
  'airspeed',
  'rangefinder',
  'gnss',
  'voltage',
] as const;
export const faultKinds = ['none', 'dead', 'stuck', 'noisy', 'slow', 'intermittent', 'jammed'] as const;
export type FaultDevice = (typeof faultDevices)[number];
export type FaultKind = (typeof faultKinds)[number];

/** What a device is called when spoken of. */
export const deviceNames: Readonly<Record<FaultDevice, string>> = {
  gyro: 'gyro',
  barometer: 'barometer',
  compass: 'compass',
  airspeed: 'airspeed sensor',
  rangefinder: 'rangefinder',
  gnss: 'GNSS receiver',
  voltage: 'voltage sensor',
};

const at = z.number().min(0).max(7200);

/** Something that happens at a time: to the link, to a switch, to a device, to the wind. */
const scenarioEventSchema = z.union([
  z.strictObject({ atS: at, do: z.enum(scenarioEvents) }),
  z.strictObject({
    atS: at,
    do: z.literal('fault'),
    device: z.enum(faultDevices),
    fault: z.enum(faultKinds),
  }),
  z.strictObject({
    atS: at,
    do: z.literal('wind'),
    speedMps: z.number().min(0).max(40),
    fromDeg: z.number().min(0).max(360),
  }),
]);
export type ScenarioEvent = z.infer<typeof scenarioEventSchema>;

/** A rehearsal's flight: where from, in which wind, how far out, what happens when. */
export const scenarioSchema = z.strictObject({
  seed: z.number().int().min(0).max(0xffffffff),
  home: z.strictObject({
    lat: z.number().min(-90).max(90),
    lon: z.number().min(-180).max(180),
    heightM: z.number().min(-50).max(2000),
  }),
  wind: z
    .strictObject({
      speedMps: z.number().min(0).max(40),
      fromDeg: z.number().min(0).max(360),
      gustMps: z.number().min(0).max(10).default(0),
    })
    .default({ speedMps: 0, fromDeg: 0, gustMps: 0 }),
  outbound: z.strictObject({
    bearingDeg: z.number().min(0).max(360),
    distanceM: z.number().min(100).max(15000),
    heightM: z.number().min(20).max(1500),
  }),
  events: z.array(scenarioEventSchema).max(100).default([]),
  /** The air at home; the standard day when left out. */
  air: z
    .strictObject({
      pressureHpa: z.number().min(870).max(1085),
      temperatureC: z.number().min(-40).max(50),
    })
    .optional(),
  limitS: z.number().min(10).max(7200).default(1500),
});
export type Scenario = z.infer<typeof scenarioSchema>;

export type ParsedScenario = { ok: true; scenario: Scenario } | { ok: false; why: string };

const plainNames: Readonly<Record<string, string>> = {
  'wind.speedMps': 'The wind speed (wind.speedMps) goes from 0 to 40 m/s at 10 m above ground',
  'wind.gustMps': 'The gusts (wind.gustMps) go from 0 to 10 m/s',
  'outbound.distanceM': 'The outbound distance (outbound.distanceM) goes from 100 to 15000 m',
  'outbound.heightM': 'The outbound height (outbound.heightM) goes from 20 to 1500 m above home',
  limitS: 'The time limit (limitS) goes from 10 to 7200 s',
};

/** Checks a scenario from a file or form. Home has to be on Torvholm and above its ground. */
export function parseScenario(input: unknown, terrain: Terrain): ParsedScenario {
  const parsed = scenarioSchema.safeParse(input);
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!;
    const path = issue.path.join('.');
    const name = /^events\.\d+$/.test(path)
      ? `In the scenario, ${path} is no event that rehearsals know (${scenarioEvents.join(', ')}, fault, wind)`
      : plainNames[path];
    return {
      ok: false,
      why: `${name ?? `In the scenario, ${path || 'the whole'}: ${issue.message}`}. Nothing was flown.`,
    };
  }
  const scenario = parsed.data;
  const { home } = scenario;
  const north = northOf(TORVHOLM.lat, home.lat);
  const east = eastOf(TORVHOLM.lat, TORVHOLM.lon, home.lon);
  if (Math.abs(north) > HALF_HEIGHT_M || Math.abs(east) > HALF_WIDTH_M) {
    const away = Math.hypot(north, east) / 1000;
    return {
      ok: false,
      why: `Home lies ${away > 100 ? 'far' : `${away.toFixed(1)} km`} from the middle of Torvholm, outside the ground this rehearsal knows. Choose a place on the island. Nothing was flown.`,
    };
  }
  const ground = groundHeight(terrain, east, north);
  if (home.heightM < ground - 25 || home.heightM > ground + 60) {
    return {
      ok: false,
      why: `Home is given ${home.heightM} m above the sea, but the ground there lies at ${ground.toFixed(0)} m. Nothing was flown.`,
    };
  }
  return { ok: true, scenario: { ...scenario, events: [...scenario.events].sort((a, b) => a.atS - b.atS) } };
}
