import { describe, expect, it } from 'vitest';
import { compileConfig } from '#firmware/config.ts';
import { Outputs } from '#firmware/outputs.ts';
import { prepared } from '../../testing/aloft.ts';
import { flock } from '../airframe/library.ts';
import { settingOf } from '../settings/typed.ts';
import { pushMore, rotorsOppose } from './rotorAnswers.ts';
import { tilts } from './seen.ts';

const craft = (name: string) => flock.find((a) => a.name.startsWith(name))!;
/** A command that turns the craft back, as the loops give it. */
const back = {
  'roll-right': { roll: -0.3 },
  'roll-left': { roll: 0.3 },
  'nose-up': { pitch: -0.3 },
  'nose-down': { pitch: 0.3 },
  'yaw-right': { yaw: -0.3 },
  'yaw-left': { yaw: 0.3 },
} as const;

describe('rotors against a tilt', () => {
  it('push more on the side that is low, and turn with the turn to stop it', () => {
    const avocet = craft('Avocet');
    expect(pushMore(avocet, 'roll-right').sort()).toEqual(['front-right-motor', 'rear-right-motor']);
    expect(pushMore(avocet, 'nose-down').sort()).toEqual(['front-left-motor', 'front-right-motor']);
    const clockwise = avocet.motors.filter((m) => m.spin === 'clockwise').map((m) => m.id);
    // Their drag turns the craft to the left.
    expect(pushMore(avocet, 'yaw-right').sort()).toEqual(clockwise.sort());
  });

  it.each(['Avocet', 'Ruff'])(
    'are given so by the board that flies %s, and not the other way round',
    (name) => {
      const airframe = craft(name);
      const values = prepared(airframe);
      const outputs = new Outputs(compileConfig(values), 0.001);
      const none = { roll: 0, pitch: 0, yaw: 0, throttle: 0, flap: 0 };
      const shares = (command: object) =>
        Object.fromEntries(
          outputs
            .wouldGive({ ...none, ...command })
            .map((v, i) => [settingOf(values, `out.${i + 1}.drives`), v]),
        );
      for (const tilt of tilts) {
        // A tricopter turns by its tail servo.
        if (name === 'Ruff' && tilt.startsWith('yaw')) continue;
        const other = tilts[tilts.indexOf(tilt) ^ 1]!;
        expect(rotorsOppose(airframe, shares(back[tilt]), tilt), tilt).toBe(true);
        expect(rotorsOppose(airframe, shares(back[other]), tilt), tilt).toBe(false);
        expect(rotorsOppose(airframe, shares({}), tilt), tilt).toBe(false);
        expect(rotorsOppose(airframe, {}, tilt)).toBe(false);
      }
      expect(new Outputs(compileConfig(prepared(craft('Turnstone'))), 0.001).wouldGive(none)).toEqual([]);
    },
  );
});
