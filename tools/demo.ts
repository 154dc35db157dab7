/** Makes the demo craft and scenarios in demo/ and the schemas of craft and site files in docs/: `npm run demo`. */

import { mkdirSync, writeFileSync } from 'node:fs';
import * as z from 'zod';
import { controllerAsItComes } from '../src/bench/devices/controllers.ts';
import { type Airframe, isRotorcraft } from '../src/core/airframe/airframe.ts';
import { avocet, flock, turnstone } from '../src/core/airframe/library.ts';
import { refTo } from '../src/core/board/boardRef.ts';
import { fellF7Model } from '../src/core/board/boards.ts';
import { fellF7 } from '../src/core/board/fellF7.ts';
import {
  type BenchTruth,
  truthFromSettings,
  usualChannels,
  usualDevices,
} from '../src/core/formats/benchTruth.ts';
import {
  CRAFT_FORMAT,
  CRAFT_VERSION,
  type CraftFile,
  craftFileSchema,
  writeCraftFile,
} from '../src/core/formats/craftFile.ts';
import { remember, writeHistory } from '../src/core/formats/history.ts';
import { DEG } from '../src/core/math/scalar.ts';
import { rodFor } from '../src/core/mixer/linkage.ts';
import { builtAs, describedLinkage } from '../src/core/mixer/throws.ts';
import { overlayConfigOf } from '../src/core/overlay/config.ts';
import { cellAt, itemIds, placeKey } from '../src/core/overlay/items.ts';
import { usualPlacing } from '../src/core/overlay/place.ts';
import { type VideoId, videoSystems } from '../src/core/overlay/videoSystems.ts';
import { planToGeoJson } from '../src/core/plan/routeFiles.ts';
import { surveyOf } from '../src/core/plan/survey.ts';
import type { SettingValue } from '../src/core/settings/catalogue.ts';
import { preparedSettings } from '../src/core/settings/preparedSettings.ts';
import { startingValues } from '../src/core/settings/startingValues.ts';
import { groundOf } from '../src/core/site/site.ts';
import { siteFileSchema } from '../src/core/site/siteFile.ts';
import { pfadCatalogue } from '../src/firmware/catalogue.ts';
import { catalogueOf } from '../src/firmware/releases.ts';
import { WRITTEN_VERSION } from '../src/firmware/versions.ts';
import { torvholm } from '../src/testing/demoCraft.ts';
import { findingsPage } from '../src/testing/findingExamples.ts';
import { placeAt, routeOf, squareAt } from '../src/testing/plans.ts';
import { settingTypes } from '../src/testing/settingTypes.ts';

/** The demo bench: motors on each other's pads, the elevator's pushrod on the far side, throttle first. */
const bench: BenchTruth = {
  pads: [
    { output: 1, actuator: 'right-motor', direction: 1 },
    { output: 2, actuator: 'left-motor', direction: 1 },
    { output: 3, actuator: 'left-aileron', direction: 1 },
    { output: 4, actuator: 'elevator', direction: -1 },
    { output: 5, actuator: 'rudder', direction: 1 },
    { output: 6, actuator: 'right-aileron', direction: 1 },
  ],
  channels: { ...usualChannels, throttle: 1, roll: 2, pitch: 3 },
  ...usualDevices,
  transmitter: { ...usualDevices.transmitter, dial: 11 },
  fitted: { airspeed: true, compass: false, rangefinder: false, flow: false },
};

/**
 * As it was found, besides: the board on edge against the wall of the body, its arrow to the left wing; the voltage four per cent
 * off; no foam on the barometer; accelerometers as they come; the left aileron eight degrees down with its servo in the middle.
 */
const aileron = turnstone.surfaces.find((s) => s.id === 'left-aileron')!;
const rod = describedLinkage(aileron);
const found: BenchTruth = {
  ...bench,
  mount: { rollDeg: -90, pitchDeg: 0, yawDeg: -90 },
  voltageScale: 1.04,
  // It says its last values again when it hears nothing, and how well it hears on channel 12, the other way round.
  receiver: { protocol: 'crsf', onLoss: 'hold', quality: { channel: 12, noneUs: 1880, fullUs: 1120 } },
  controllers: [
    { ...controllerAsItComes('left-motor'), settings: { brake: true } },
    { ...controllerAsItComes('right-motor'), settings: { brake: false } },
  ],
  linkages: [{ ...builtAs(aileron), rodMm: Number(rodFor(rod, 8 * DEG).toFixed(2)) }],
  baroShielded: false,
  accels: [{ offset: [0.21, -0.34, 0.15], scale: [1.012, 0.991, 1.018] }],
};

const ground = groundOf(torvholm);

/** In the order of the schema, as the application writes it. */
const written = (file: CraftFile) => writeCraftFile(craftFileSchema.parse(file));

function craft(settings: Record<string, SettingValue>, notes: string, bench: BenchTruth): CraftFile {
  return {
    format: CRAFT_FORMAT,
    version: CRAFT_VERSION,
    name: turnstone.name,
    board: refTo(fellF7Model, 'Pfad', WRITTEN_VERSION),
    airframe: turnstone,
    settings: { ...pfadCatalogue.defaults(), ...settings },
    edits: {},
    setup: '',
    proofs: [],
    notes,
    site: torvholm.name,
    bench,
  };
}

const believed = {
  'out.1.drives': 'left-motor',
  'out.2.drives': 'right-motor',
  'out.3.drives': 'left-aileron',
  'out.4.drives': 'elevator',
  'out.5.drives': 'rudder',
  'out.6.drives': 'right-aileron',
  // The receiver speaks at 38400.
  'gnss.baud': '9600',
  'arm.channel': 5,
  'mode.level.channel': 6,
  'mode.level.from': 1300,
  'mode.level.to': 1700,
  'mode.return.channel': 7,
  'return.height': 120,
  'return.speed': 13,
  'return.climb': 'at-least',
  'loiter.radius': 60,
};

/** An overlay with what is looked at most, and marks at which it blinks. */
function overlayFor(system: VideoId, airframe: Airframe): Record<string, SettingValue> {
  const c = overlayConfigOf({ ...pfadCatalogue.defaults(), 'overlay.system': system });
  const placing = usualPlacing(c, videoSystems[system], isRotorcraft(airframe));
  return {
    'overlay.system': system,
    ...Object.fromEntries(
      itemIds.filter((id) => placing[id] >= 0).map((id) => [placeKey('a', id), placing[id]]),
    ),
    'overlay.alarm.cell.at': 3.4,
    'overlay.alarm.satellites.at': 8,
    'overlay.alarm.quality.at': 0.5,
  };
}

/** Made for the grid of Dipper: on Ouzel its right column lies outside, and the mode reaches over the distance. */
const foreignOverlay = {
  ...overlayFor('dipper', turnstone),
  'overlay.system': 'ouzel',
  'overlay.a.mode': cellAt(1, 20),
};

const putRight = {
  ...believed,
  'gnss.baud': '38400',
  ...Object.fromEntries(startingValues(turnstone, ground).map((s) => [s.key, s.value])),
  'out.1.drives': 'right-motor',
  'out.2.drives': 'left-motor',
  'out.4.reversed': true,
  'rx.throttle.channel': 1,
  'rx.roll.channel': 2,
  'rx.pitch.channel': 3,
  ...overlayFor('ouzel', turnstone),
  'light.lamps': 9,
  'light.output': 7,
};

const scenario = (wind: object, outbound: object, events: object[], limitS = 1500) => ({
  seed: 7,
  home: torvholm.home,
  wind,
  outbound,
  events,
  limitS,
});
const southwest = { speedMps: 8, fromDeg: 230, gustMps: 2 };
const northeast = { bearingDeg: 50, distanceM: 2500, heightM: 120 };
const lostAt = (atS: number) => [{ atS, do: 'link-lost' }];

mkdirSync('demo/scenarios', { recursive: true });
writeFileSync(
  'demo/turnstone.wanderweg.json',
  written(craft(putRight, 'Turnstone with everything put right, its board laid flat.', bench)),
);
writeFileSync(
  'demo/turnstone-as-found.wanderweg.json',
  written(craft({ ...believed, ...foreignOverlay }, 'Turnstone as it was found on the bench.', found)),
);
/** The others of the flock, wired and set as a careful builder would. */
const pictures: Readonly<Record<string, VideoId>> = {
  sandpiper: 'analogue-625',
  dunlin: 'analogue-525',
  knot: 'ouzel',
  avocet: 'dipper',
};
for (const airframe of flock) {
  if (airframe === turnstone) continue;
  const name = airframe.name.split(' ')[0]!.toLowerCase();
  const picture = pictures[name];
  const settings = {
    ...preparedSettings(airframe, fellF7, torvholm),
    ...(picture ? overlayFor(picture, airframe) : {}),
  };
  writeFileSync(
    `demo/${name}.wanderweg.json`,
    written({
      format: CRAFT_FORMAT,
      version: CRAFT_VERSION,
      name: airframe.name,
      board: refTo(fellF7Model, 'Pfad', WRITTEN_VERSION),
      airframe,
      settings: { ...pfadCatalogue.defaults(), ...settings },
      edits: {},
      setup: '',
      proofs: [],
      site: torvholm.name,
      notes: `${airframe.name} as its starting values have it.`,
      bench: {
        ...truthFromSettings(airframe, { ...pfadCatalogue.defaults(), ...settings }),
        // The demo's multirotor has its compass over the battery lead.
        ...(airframe === avocet && { iron: { x: 14, y: -9, z: 21, perAmp: 0.5 } }),
      },
    }),
  );
}
const scenarios: Record<string, object> = {
  'northeast-in-wind': scenario(southwest, northeast, lostAt(180)),
  calm: scenario({ speedMps: 0, fromDeg: 0, gustMps: 0 }, northeast, lostAt(180)),
  storm: scenario({ speedMps: 30, fromDeg: 230, gustMps: 3 }, northeast, lostAt(180)),
  'behind-aldrygg': scenario(
    { speedMps: 3, fromDeg: 230, gustMps: 0 },
    { bearingDeg: 318, distanceM: 5600, heightM: 460 },
    lostAt(520),
  ),
  'link-comes-back': scenario(southwest, northeast, [
    ...lostAt(150),
    { atS: 200, do: 'link-back' },
    { atS: 320, do: 'return-switch-on' },
  ]),
  'never-called-home': scenario(southwest, northeast, [], 400),
};
for (const [name, s] of Object.entries(scenarios))
  writeFileSync(`demo/scenarios/${name}.json`, `${JSON.stringify(s, null, 2)}\n`);
writeFileSync(
  'docs/craft.schema.json',
  `${JSON.stringify(z.toJSONSchema(craftFileSchema, { io: 'input' }), null, 2)}\n`,
);

writeFileSync(
  'docs/site.schema.json',
  `${JSON.stringify(z.toJSONSchema(siteFileSchema, { io: 'input' }), null, 2)}\n`,
);

writeFileSync('docs/findings.md', findingsPage());
writeFileSync('src/core/settings/pfadSettings.ts', settingTypes(pfadCatalogue, WRITTEN_VERSION));

/** Turnstone as its board was last autumn, on Pfad 2.8: to see how settings are carried over. */
const old = {
  ...catalogueOf('2.8').defaults(),
  'speed.home': 68,
  'home.height': 300,
  'gain.roll.p': 0.9,
  'stick.order': 'throttle-roll-pitch-yaw',
};
const { snapshot } = remember(
  [],
  {
    cause: 'met',
    board: 'Fell F7',
    target: 'fell-f7',
    revision: 'A',
    serial: 'FF7-0419-22',
    firmware: 'Pfad',
    version: '2.8',
    craft: turnstone.name,
    setup: '',
  },
  old,
  '2025-09-14T10:12:00.000Z',
);
writeFileSync(
  'demo/turnstone-2.8.wanderweg-history.json',
  writeHistory({ snapshots: [snapshot], contents: { [snapshot.content]: old } }),
);

/** A survey of the meadow east of home, with the common to stay over and the mast to keep away from: for trying routes. */
mkdirSync('demo/routes', { recursive: true });
const survey = surveyOf(
  {
    corners: [placeAt(150, 500), placeAt(250, 1500), placeAt(850, 1450), placeAt(800, 480)],
    spacingM: 150,
    beyondM: 80,
    point: { heightM: 110, above: 'home', speedMps: 0, cameraDeg: 90 },
  },
  torvholm.home,
);
writeFileSync(
  'demo/routes/torvholm-shore.geojson',
  planToGeoJson(
    routeOf(survey.points, 'return', [
      squareAt(400, 700, 1900, { name: 'Over the common', keep: 'in', toM: 0 }),
      {
        name: 'The sheepfold',
        keep: 'out',
        area: { ...placeAt(-150, 900), radiusM: 120 },
        fromM: 0,
        toM: 150,
      },
    ]),
  ),
);
