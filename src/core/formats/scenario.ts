import * as z from 'zod';
import { parsed } from '#core/parsed.ts';
import { groundAbout, groundHeight, liesOn } from '../flight/terrain.ts';
import { airSchema, homeSchema, type Site } from '../site/site.ts';

const scenarioEvents = ['link-lost', 'link-back', 'return-switch-on', 'return-switch-off'] as const;
/** Chips and sensors, and what is built of metal and foam. */
export const sensorDevices = [
  'gyro',
  'barometer',
  'compass',
  'airspeed',
  'rangefinder',
  'gnss',
  'voltage',
] as const;
const partDevices = ['motor', 'surface', 'lead', 'cell', 'receiver'] as const;
export const faultDevices = [...sensorDevices, ...partDevices] as const;
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
  motor: 'first motor',
  surface: 'first surface',
  lead: 'battery lead',
  cell: 'cell of the battery',
  receiver: 'receiver',
};

/** Ways in which each may fail: chips and sensors in most, what is built of metal and foam in one. */
export function faultKindsOf(device: FaultDevice): readonly FaultKind[] {
  switch (device) {
    case 'motor':
    case 'cell':
      return ['none', 'dead'];
    case 'surface':
    case 'receiver':
      return ['none', 'stuck'];
    case 'lead':
      return ['none', 'intermittent'];
    default:
      return faultKinds.filter((k) => k !== 'jammed' || device === 'gnss');
  }
}

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

export const MOST_EVENTS = 100;

/** A rehearsal's flight: where from, in which wind, how far out, what happens when. */
export const scenarioSchema = z.strictObject({
  seed: z.number().int().min(0).max(0xffffffff),
  home: homeSchema,
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
    /** It begins there, in the air, with what the board would know after the flight out; flown out from home when left out. */
    begins: z.literal('there').optional(),
    /** The craft's own route is flown, from a little above the launch on. */
    route: z
      .strictObject({
        /** The link is lost when this point is reached, counted from 1; left out, it is not. */
        loseLinkAt: z.number().int().min(1).max(200).optional(),
      })
      .optional(),
  }),
  /** Charge of the battery when it begins, share; full when left out. */
  batteryShare: z.number().min(0.02).max(1).optional(),
  events: z.array(scenarioEventSchema).max(MOST_EVENTS).default([]),
  /** A throw that is not as it should be; straight ahead, nose a little up and at the speed that it wants when left out. */
  thrown: z
    .strictObject({
      /** Of the speed that the launch gives. */
      speedShare: z.number().min(0.2).max(1.5),
      bankDeg: z.number().min(-90).max(90),
      pitchDeg: z.number().min(-60).max(60),
    })
    .optional(),
  /** The air at home; as the site has it when left out. */
  air: airSchema.optional(),
  limitS: z.number().min(10).max(7200).default(1500),
});
export type Scenario = z.infer<typeof scenarioSchema>;

export type ParsedScenario = { ok: true; scenario: Scenario } | { ok: false; why: string };

const plainNames: Readonly<Record<string, string>> = {
  'wind.speedMps': 'The wind speed (wind.speedMps) goes from 0 to 40 m/s at 10 m above ground',
  'wind.gustMps': 'The gusts (wind.gustMps) go from 0 to 10 m/s',
  'outbound.distanceM': 'The outbound distance (outbound.distanceM) goes from 100 to 15000 m',
  'outbound.heightM': 'The outbound height (outbound.heightM) goes from 20 to 1500 m above home',
  batteryShare: 'The charge of the battery (batteryShare) goes from 0.02 to 1',
  limitS: 'The time limit (limitS) goes from 10 to 7200 s',
};

/** Checks a scenario from a file or form. Where the site's ground is known, home has to be on it and near its height. */
export function parseScenario(input: unknown, site: Pick<Site, 'name' | 'terrain'>): ParsedScenario {
  const result = parsed(scenarioSchema, input);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    const path = issue.path.join('.');
    const name = /^events\.\d+$/.test(path)
      ? `In the scenario, ${path} is no event that rehearsals know (${scenarioEvents.join(', ')}, fault, wind)`
      : plainNames[path];
    return {
      ok: false,
      why: `${name ?? `In the scenario, ${path || 'the whole'}: ${issue.message}`}. Nothing was flown.`,
    };
  }
  const scenario = result.data;
  const { home } = scenario;
  const { terrain } = site;
  if (terrain.known && !liesOn(terrain, home))
    return {
      ok: false,
      why: `Home at ${home.lat}, ${home.lon} lies outside the ground that is known of ${site.name}. Choose a place on it, or another site. Nothing was flown.`,
    };
  const { homeEastM, homeNorthM } = groundAbout(terrain, home);
  const ground = groundHeight(terrain, homeEastM, homeNorthM);
  if (terrain.known && (home.heightM < ground - 25 || home.heightM > ground + 60)) {
    return {
      ok: false,
      why: `Home is given ${home.heightM} m above the sea, but the ground there lies at ${ground.toFixed(0)} m. Nothing was flown.`,
    };
  }
  return { ok: true, scenario: { ...scenario, events: [...scenario.events].sort((a, b) => a.atS - b.atS) } };
}

/** The flight that is thought of where nobody named one: out and back in a fresh wind, its link lost on the way. */
export const usualScenario = (home: Scenario['home']): Scenario => ({
  seed: 7,
  home,
  wind: { speedMps: 8, fromDeg: 230, gustMps: 2 },
  outbound: { bearingDeg: 50, distanceM: 2500, heightM: 120 },
  events: [{ atS: 180, do: 'link-lost' }],
  limitS: 1500,
});

/** The same day, begun in the air over home, with nothing happening. @param heightM above home */
export const aloftOverHome = (s: Scenario, heightM: number): Scenario => ({
  ...s,
  outbound: { bearingDeg: s.outbound.bearingDeg, distanceM: 0, heightM, begins: 'there' },
  events: [],
});
