import type { StationId } from '#core/findings/rule.ts';
import type { SettingEntry } from '#core/settings/catalogueSchema.ts';
import { type LegId, legs } from '../legs/legs.ts';

/** What Find anything knows: things to do, stations, legs, settings, findings; and by which words each is looked for. */

export type Kind = 'do' | 'station' | 'leg' | 'setting' | 'finding';

export interface Findable {
  readonly kind: Kind;
  readonly id: string;
  readonly name: string;
  /** Words of the trade by which people call it, besides its name. */
  readonly words: string;
  /** What it is about; found as well, after the rest. */
  readonly about: string;
}

/** Words of the trade that lead to a station. */
const stationWords: Readonly<Partial<Record<StationId, string>>> = {
  'whole-set-up':
    'print sheet report pdf html export summary everything documentation card dump share build log',
  'when-lost':
    'lost model search find crash crashed beacon buzzer last position last known retrieve recovery missing gone down flyaway fly-away',
  'no-computer':
    'gestures by stick field menu osd menu without laptop cheat sheet pocket card trim accelerometer at the field',
  'lights-sounds':
    'led strip leds neopixel navigation lights strobe buzzer beeper beep tones lost model alarm find my plane finder esc beacon dshot beacon status lamp',
  'radio-hears':
    'telemetry sensors crsf downlink transmitter screen discover sensors ratio baud vario battery voltage alarm callout last position gps coordinates rssi',
  'after-flight':
    'flight log logbook download logs sd card gpx kml csv track replay plot vibration compare analyze',
  'over-picture':
    'osd on-screen display on screen overlay fpv goggles video symbols font grid analog analogue digital pal ntsc elements units alarms warnings craft name artificial horizon crosshair layout',
  'before-throw':
    'preflight pre-flight checklist check list first flight maiden launch go no-go sign off field walk range test balance',
  board:
    'connect connection plug usb serial com port cable flight controller fc board link telemetry socket baud identify serial number device',
  keep: 'backup restore snapshot history diff dump compare versions previous settings revert rollback copy',
  firmware:
    'flash flashing update upgrade downgrade bootloader loader image hex target release migrate migration version',
  airframe:
    'geometry wing wingspan span chord dimensions mass weight weights balance cg centre of gravity static margin propeller prop motor kv battery lipo cells capacity fuselage airframe model servo speed',
  wiring:
    'wire pinout pads pins solder resource uart port i2c can bus timer dshot pwm oneshot esc protocol bec rail power current servo rail led pad mapping outputs assignment receiver port gps port',
  site: 'location map terrain elevation home point place field airfield ground obstacles declination magnetic hgt',
  'starting-values':
    'pid gains tune tuning rates expo p i d feedforward feed forward defaults preset presets starting values initial filter cruise throttle hover throttle',
  mounted:
    'board alignment orientation mounting rotation arrow accelerometer direction turned sideways upside down',
  poses: 'accelerometer acc calibration calibrate six point position axis imu offset scale',
  shaken:
    'gyro imu vibration vibrations noise calibration bias drift balance soft mount shake spectrum run-up',
  level: 'level horizon trim board level calibrate level angle of attack cruise pitch',
  position:
    'gps gnss satellites fix hdop dilution baud sky nmea glonass galileo beidou cold start jamming lock',
  compass: 'magnetometer mag calibration calibrate heading declination interference hard iron soft iron',
  air: 'barometer baro altitude height pressure foam drift rangefinder lidar sonar',
  airspeed: 'pitot tube airspeed sensor zero offset leak calibration',
  volts:
    'battery voltage vbat current sensor amperage ammeter scale calibration cells mah capacity alarm sag internal resistance',
  everything: 'live telemetry values plot graph chart scope csv raw sensors noise spectrum monitor',
  'which-moved':
    'servo test motor test motor direction reverse reversed servo direction output mapping mixer mix motor order spin rotation surface direction aileron elevator rudder elevon propellers off',
  motors:
    'esc escs motor controller controllers brake timing low voltage cutoff beacon passthrough pass-through direction spin thrust static current idle',
  throws:
    'throws throw travel endpoint endpoints centre center trim subtrim linkage pushrod clevis horn servo arm ruler degrees deflection differential reflex binding slop differential limits servo test',
  mixing:
    'mixer mix mixing weights differential elevon vtail v-tail flaperon authority saturation rudder coupling adverse yaw custom mixer',
  receiver:
    'receiver rx crsf sbus ppm protocol bind binding lamp led frame rate lost frames rssi link quality lq signal strength aerial antenna range inverted half duplex',
  'ready-to-arm':
    'arm arming prearm pre-arm checks blockers disarm safety hand launch throw launch detection bungee',
  routes:
    'mission missions waypoint waypoints route planner plan survey grid mapping area lawnmower geofence fence fences polygon keep out exclusion inclusion gpx kml geojson poi camera trigger link range profile',
  'if-it-fails':
    'failure failures fault faults what if motor out engine failure dead motor gps loss gnss jamming brownout redundancy sensor failure fmea risk emergency',
  arrival:
    'landing land autoland approach glide slope flare touchdown touch-down circle loiter hover rth arrival descend strip runway go around go-around',
  home: 'home point home arrow home position reset home direction to home satellites home accuracy launch point rearm re-arm heading home bearing',
  enough:
    'battery energy endurance low battery warning alarm voltage mah used capacity reserve turn back return to home battery failsafe point of no return flight time cold winter',
  reach:
    'range reach distance how far point of no return endurance battery left headwind wind energy terrain radius map border safe distance max range flight time',
  'radio-silent':
    'failsafe fail-safe signal loss receiver failsafe hold preset no pulses switch transmitter off test failsafe test',
  sticks:
    'channel map channel order aetr taer rc receiver input calibrate sticks roll pitch yaw throttle transmitter radio calibration mode 1 mode 2',
  switches:
    'modes flight modes aux switch switches arm arming disarm range ranges acro angle level stabilize manual position hold altitude hold loiter launch channel assignment',
  opposes:
    'stabilisation stabilization direction check control direction tilt test gyro direction self level check response reversed surface',
  'lost-link':
    'failsafe fail safe fail-safe signal loss rc loss lost link radio loss no signal stage action land cut drop guard delay',
  'way-home':
    'rth rtl return to home return to launch return home altitude return height climb loiter circle radius landing approach ridge terrain clearance home',
  'one-flight':
    'simulate simulation simulator sim sitl fly test flight rehearse rehearsal scenario replay track map wind gust fault inject gpx',
  answers:
    'pid step response overshoot rise time phase margin gain margin crossover bandwidth oscillation oscillate ringing wobble d term p gain i gain feed forward feedforward tune tuning',
  feels:
    'rates rate expo exponential stick curve roll rate turn rate bank limit pitch limit load factor stall turn radius profile profiles control set dual rates beginner smooth agile',
  shakes:
    'filter filters lowpass low-pass notch moving notch spectrum noise vibration hz fft gyro noise motor noise propeller balance delay latency d term filter',
  'gain-law':
    'airspeed scaling gain scheduling schedule voltage compensation sag compensation speed scaling dive gains',
  'level-turns':
    'altitude hold height hold position hold angle mode level p self level navigation tuning l1 period damping tecs energy velocity loop position loop braking overshoot loiter circle turn coordination',
  'by-dial':
    'in-flight adjustment adjustments adjust tuning knob pot potentiometer slider channel live tuning in-air tuning trim gains in flight',
  'from-elsewhere':
    'convert conversion import gains migrate units scale other firmware pid scale convention translate copy gains from log identify',
  changes:
    'tuning history compare flights before after log comparison what changed versions of gains progress',
  'let-it-find':
    'autotune auto tune automatic tuning self tuning system identification find gains in flight learn gains',
  'many-winds': 'batch monte carlo wind rose winds statistics probability many flights directions',
  trust: 'accuracy validity model limits assumptions verification trust how good',
};

/** Words that lead to a leg as a whole, above all where it has no stations yet. */
const legWords: Readonly<Record<LegId, string>> = {
  build: 'setup assemble hardware',
  sense:
    'sensors calibration calibrate accelerometer acc imu gyro compass magnetometer mag barometer baro gps gnss satellites level horizon alignment mounting airspeed pitot',
  steer: 'controls surfaces outputs inputs radio',
  return: 'safety emergency geofence fence home',
  refine: 'autotune notch vibration filter step response oscillation tune rates gains',
  rehearse: 'simulation flights',
  field: 'preflight checklist osd log logs analysis find lost model maiden range test',
};

/** Words of the trade for settings, by a part of their keys. */
const settingWords: readonly (readonly [RegExp, string])[] = [
  [/^rate\./, 'pid gain'],
  [/^level\./, 'pid angle self-level'],
  [/^out\.\d+\.(low|high)$/, 'endpoint travel limit min max throw'],
  [/^out\.\d+\.centre$/, 'trim subtrim neutral midpoint'],
  [/^out\.\d+\.reversed$/, 'reverse direction invert'],
  [/^timer\.\d+\.sends$/, 'dshot pwm oneshot esc protocol'],
  [/^battery\./, 'voltage alarm low battery cutoff lvc'],
  [/^rx\./, 'receiver crsf sbus ppm channel map'],
  [/^gnss\./, 'gps satellites'],
  [/^compass\./, 'magnetometer mag declination'],
  [/^lost\./, 'failsafe'],
  [/^return\./, 'rth rtl return to home'],
  [/^land\./, 'landing autoland'],
  [/^arm\./, 'arming disarm prearm'],
  [/^log\./, 'logging'],
];

const wordsOfSetting = (key: string) =>
  settingWords.flatMap(([pattern, words]) => (pattern.test(key) ? [words] : [])).join(' ');

export const stationItems: readonly Findable[] = legs.flatMap((l) =>
  l.stations.map((s) => ({
    kind: 'station' as const,
    id: s.id,
    name: s.name,
    words: stationWords[s.id] ?? '',
    about: `${l.name} ${s.about}`,
  })),
);

export const legItems: readonly Findable[] = legs.map((l) => ({
  kind: 'leg',
  id: l.id,
  name: l.name,
  words: legWords[l.id],
  about: '',
}));

export const settingItems = (entries: readonly SettingEntry[]): readonly Findable[] =>
  entries.map((e) => ({
    kind: 'setting',
    id: e.key,
    name: e.label,
    words: `${e.key} ${e.key.replaceAll('.', ' ')} ${wordsOfSetting(e.key)}`,
    about: `${e.meaning} ${e.group}`,
  }));

const split = (text: string) =>
  text
    .toLowerCase()
    .split(/[\s,;:()/?]+/)
    .filter(Boolean);
const plain = (word: string) => word.replace(/[-.’']/g, '');

/** How well a word is met by those of a text: whole, as a beginning, within; 0 for not at all. */
function met(word: string, words: readonly string[]): number {
  let best = 0;
  for (const w of words) {
    const [a, b] = [plain(w), plain(word)];
    if (a === b) return 1;
    if (a.startsWith(b)) best = Math.max(best, 0.7);
    else if (b.length >= 4 && a.includes(b)) best = Math.max(best, 0.3);
  }
  return best;
}

/** Nearer things first where two fit alike. */
const kindWeight: Readonly<Record<Kind, number>> = {
  station: 1.02,
  do: 1.015,
  setting: 1,
  finding: 1,
  leg: 1.01,
};

/**
 * What a search finds, the best first. Every word has to be met: in the name, in the words of the trade, or in what it is
 * about; beginnings of words count, hyphens and dots do not.
 */
export function ranked(items: readonly Findable[], query: string): readonly Findable[] {
  const asked = split(query);
  if (asked.length === 0) return items;
  const scored: { item: Findable; score: number }[] = [];
  for (const item of items) {
    const [name, words, about] = [split(item.name), split(item.words), split(item.about)];
    let score = 0;
    // By the words of the trade people look for a place first, and for one of its many settings after that.
    const wordsCount = item.kind === 'setting' ? 0.9 : 1;
    for (const word of asked) {
      const best = Math.max(met(word, name), wordsCount * met(word, words), 0.45 * met(word, about));
      if (best === 0) {
        score = 0;
        break;
      }
      score += best;
    }
    // Words that stand together as they were typed, and a name that is what was typed.
    if (score > 0) {
      const together = asked.join(' ');
      const name = item.name.toLowerCase();
      // Of settings dozens begin with one word: a place that is about it comes before them.
      const many = item.kind === 'setting' && asked.length === 1 && name !== together;
      if (name.startsWith(together) && !many) score += 0.6;
      else if (asked.length > 1 && ` ${item.words.toLowerCase()} `.includes(` ${together} `)) score += 0.4;
      scored.push({ item, score: score * kindWeight[item.kind] });
    }
  }
  return scored.sort((a, b) => b.score - a.score).map((s) => s.item);
}
