import { beforeEach, describe, expect, it } from 'vitest';
import { demoValues } from '../testing/demoCraft.ts';
import { compileConfig } from './config.ts';
import { HandLaunch } from './handLaunch.ts';

const c = compileConfig({
  ...demoValues('turnstone'),
  'launch.accel': 12,
  'launch.delay': 0.3,
  'launch.time': 6,
  'launch.height': 30,
  'launch.throttle': 0.9,
});

let said: string[];
let launch: HandLaunch;
beforeEach(() => {
  said = [];
  launch = new HandLaunch(c, (text) => said.push(text));
  launch.begin();
});
const feel = (push: number, seconds: number, height = 40, sticks = false) => {
  for (let t = 0; t < seconds - 1e-9; t += 0.02) launch.step(push, height, sticks, 0.02);
};

describe('a hand launch', () => {
  it('keeps the motor off however long it is carried about', () => {
    feel(4, 60);
    expect(launch.throttle).toBe(0);
    expect(launch.phase).toBe('waiting');
  });

  it('does not take a knock of a fiftieth of a second for a throw', () => {
    for (let k = 0; k < 20; k++) {
      feel(40, 0.02);
      feel(0, 0.5);
    }
    expect(launch.phase).toBe('waiting');
  });

  it('waits its delay after the throw before the motor runs, away from the hand', () => {
    feel(25, 0.08);
    expect(launch.phase).toBe('thrown');
    feel(0, 0.26);
    expect(launch.throttle).toBe(0);
    feel(0, 0.06);
    expect(launch.throttle).toBe(0.9);
  });

  it('is done by height, by time, or by the pilot’s sticks', () => {
    const climb = () => {
      launch.begin();
      feel(25, 0.08);
      feel(0, 0.4);
      expect(launch.running).toBe(true);
    };
    climb();
    feel(0, 0.02, 71);
    expect(launch.running).toBe(false);
    climb();
    feel(0, 6.1, 41);
    expect(launch.running).toBe(false);
    climb();
    feel(0, 0.02, 41, true);
    expect(launch.running).toBe(false);
    expect(said.at(-1)).toBe('Hand launch: the pilot takes over.');
  });

  it('says each of its steps once', () => {
    feel(25, 0.5);
    feel(0, 8, 75);
    expect(said).toEqual([
      'Hand launch: waits for the throw with the motor off.',
      'Hand launch: thrown.',
      'Hand launch: done.',
    ]);
  });
});
