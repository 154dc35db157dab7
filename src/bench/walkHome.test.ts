import { describe, expect, it } from 'vitest';
import { homeArrow } from '#core/navigation/homeArrow.ts';
import type { Telemetry } from '#core/wire/telemetry.ts';
import { benchRig, meet } from '../testing/benchRig.ts';

/** The board on the bench, carried outdoors, armed in the hand and walked away with. */
describe('home, walked away from', () => {
  it('is where it was armed, as the board tells it over the link', async () => {
    const rig = benchRig();
    await meet(rig.client);
    const heard: Telemetry['home'][] = [];
    rig.client.onTelemetry = (group, value) => {
      if (group === 'home') heard.push(value as Telemetry['home']);
    };
    await rig.client.request('subscribe', { group: 'home', hz: 5 });
    const c = rig.bench.controls;
    Object.assign(c, { battery: true, outdoors: true });
    rig.run(150);
    c.armSwitch = true;
    rig.run(2);
    expect(rig.bench.pfad!.controller.armed).toBe(true);
    Object.assign(c, { walkNorthM: 60, walkEastM: 0 });
    rig.run(60);
    // What was said meanwhile comes over the cable now.
    await new Promise((resolve) => setTimeout(resolve, 300));
    const home = heard.at(-1)!;
    expect(home.set).toBe(true);
    expect(home.satellites).toBeGreaterThan(7);
    const arrow = homeArrow(home.north, home.east, null);
    expect(Math.abs(arrow.distanceM - 60)).toBeLessThan(6);
    expect(Math.abs(arrow.bearingDeg - 180)).toBeLessThan(8);
    rig.stop();
  });
});
