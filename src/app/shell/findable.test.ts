import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { type Findable, legItems, ranked, settingItems, stationItems } from './findable.ts';

const actions: readonly Findable[] = [
  ['save', 'Save craft to a file', 'export download backup share'],
  ['crafts', 'All craft, and how to begin one', 'open import load file new craft model switch profile demo'],
  ['toml', 'Copy settings as TOML', 'export cli dump text clipboard diff'],
  ['write', 'Write to board', 'save store apply upload send flash settings'],
  ['findings', 'Show all findings', 'warnings errors problems issues checks validation'],
  ['theme-dusk', 'Dusk, for a dark hangar', 'dark mode theme night colours'],
  ['help', 'Help here, and the keys', 'shortcuts keyboard manual documentation'],
].map(([id, name, words]) => ({ kind: 'do', id: id!, name: name!, words: words!, about: '' }));

const items = [...actions, ...stationItems, ...legItems, ...settingItems(pfadCatalogue.entries)];

/** What people type, and where it should lead: among the first three. */
const sought: readonly (readonly [typed: string, ids: string])[] = [
  ['failsafe', 'lost-link'],
  ['fail-safe', 'lost-link'],
  ['fail safe', 'lost-link'],
  ['signal loss', 'lost-link'],
  ['rc loss', 'lost-link'],
  ['lost link', 'lost-link'],
  ['rth', 'way-home'],
  ['RTH', 'way-home'],
  ['rtl', 'way-home'],
  ['return to home', 'way-home'],
  ['return height', 'return.height way-home'],
  ['loiter radius', 'loiter.radius'],
  ['landing', 'way-home'],
  ['pid', 'starting-values'],
  ['PID', 'starting-values'],
  ['gains', 'starting-values'],
  ['tuning', 'starting-values refine'],
  ['presets', 'starting-values'],
  ['expo', 'starting-values'],
  ['feedforward', 'starting-values rate.roll.forward'],
  ['feed forward', 'starting-values'],
  ['trim', 'throws'],
  ['subtrim', 'throws'],
  ['endpoint', 'throws'],
  ['endpoints', 'throws'],
  ['servo reverse', 'which-moved'],
  ['servo direction', 'which-moved'],
  ['motor direction', 'which-moved'],
  ['motor test', 'which-moved'],
  ['motor order', 'which-moved'],
  ['mixer', 'which-moved'],
  ['mix', 'which-moved'],
  ['elevon', 'which-moved'],
  ['aileron', 'which-moved'],
  ['throws', 'throws'],
  ['propellers off', 'which-moved'],
  ['geofence', 'return fence.radius'],
  ['fence', 'return fence.radius'],
  ['bec', 'wiring'],
  ['BEC', 'wiring'],
  ['dshot', 'wiring'],
  ['DShot', 'wiring'],
  ['pwm', 'wiring'],
  ['oneshot', 'wiring'],
  ['uart', 'wiring'],
  ['serial port', 'board wiring'],
  ['i2c', 'wiring'],
  ['can bus', 'wiring'],
  ['timer', 'wiring timer.1.sends'],
  ['pinout', 'wiring'],
  ['solder', 'wiring'],
  ['led', 'wiring'],
  ['esc', 'wiring'],
  ['gps port', 'wiring'],
  ['export', 'save toml'],
  ['backup', 'keep save'],
  ['restore', 'keep'],
  ['snapshot', 'keep'],
  ['diff', 'keep toml'],
  ['compare', 'keep'],
  ['dump', 'keep toml'],
  ['import', 'crafts'],
  ['open file', 'crafts'],
  ['new craft', 'crafts'],
  ['profile', 'crafts'],
  ['flash', 'firmware'],
  ['flashing', 'firmware'],
  ['bootloader', 'firmware'],
  ['update', 'firmware'],
  ['upgrade', 'firmware'],
  ['hex', 'firmware'],
  ['cg', 'airframe'],
  ['centre of gravity', 'airframe'],
  ['wing span', 'airframe'],
  ['span', 'airframe'],
  ['kv', 'airframe'],
  ['propeller', 'airframe'],
  ['weight', 'airframe'],
  ['static margin', 'airframe'],
  ['battery capacity', 'airframe battery.capacity'],
  ['map', 'site one-flight'],
  ['terrain', 'site'],
  ['declination', 'site compass.declination'],
  ['airfield', 'site'],
  ['home', 'way-home return'],
  ['channel map', 'sticks'],
  ['aetr', 'sticks'],
  ['taer', 'sticks'],
  ['channel order', 'sticks'],
  ['receiver', 'sticks wiring'],
  ['calibrate sticks', 'sticks'],
  ['flight modes', 'switches'],
  ['modes', 'switches'],
  ['aux', 'switches'],
  ['arming', 'switches arm.channel'],
  ['disarm', 'switches'],
  ['acro', 'switches'],
  ['angle', 'switches'],
  ['position hold', 'switches mode.position.channel'],
  ['altitude hold', 'switches'],
  ['stabilisation', 'opposes'],
  ['stabilization', 'opposes'],
  ['gyro direction', 'opposes'],
  ['self level', 'opposes'],
  ['simulator', 'one-flight'],
  ['simulation', 'one-flight rehearse'],
  ['sitl', 'one-flight'],
  ['gpx', 'one-flight'],
  ['replay', 'one-flight'],
  ['gust', 'one-flight'],
  ['monte carlo', 'many-winds'],
  ['wind rose', 'many-winds'],
  ['batch', 'many-winds'],
  ['accuracy', 'trust'],
  ['gps', 'position'],
  ['compass', 'compass compass.fitted'],
  ['calibration', 'sense sticks poses compass'],
  ['accelerometer', 'poses'],
  ['magnetometer', 'compass'],
  ['barometer', 'air'],
  ['airspeed', 'airspeed'],
  ['pitot', 'airspeed'],
  ['vibration', 'shaken'],
  ['board alignment', 'mounted'],
  ['voltage scale', 'battery.scale volts'],
  ['ammeter', 'volts'],
  ['csv', 'everything'],
  ['satellites', 'position'],
  ['horizon', 'level'],
  ['autotune', 'refine'],
  ['notch', 'refine gyro.notch'],
  ['preflight', 'field'],
  ['checklist', 'field'],
  ['logs', 'field'],
  ['osd', 'field'],
  ['dark mode', 'theme-dusk'],
  ['shortcuts', 'help'],
  ['connect', 'board'],
  ['usb', 'board'],
  ['plug', 'board'],
  ['com port', 'board'],
  ['warnings', 'findings'],
  ['apply', 'write'],
  ['retu hei', 'return.height'],
  ['nav spe', 'nav.speed'],
];

describe('Find anything', () => {
  it('knows well over 120 words and spellings of the trade', () => {
    expect(sought.length).toBeGreaterThanOrEqual(120);
  });

  it.each(sought)('leads from “%s” to %s', (typed, ids) => {
    const first = ranked(items, typed)
      .slice(0, 3)
      .map((i) => i.id);
    expect(
      first.some((id) => ids.split(' ').includes(id)),
      `${typed}: ${first.join(', ')}`,
    ).toBe(true);
  });

  it('finds every setting by its key, its label and the beginnings of either', () => {
    for (const e of pfadCatalogue.entries) {
      const found = ranked(items, e.key).slice(0, 3);
      expect(
        found.map((i) => i.id),
        e.key,
      ).toContain(e.key);
    }
  });

  it('finds nothing for a word that nothing has', () => {
    expect(ranked(items, 'zeppelin')).toEqual([]);
  });
});
