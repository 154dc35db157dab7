import { describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { boardOf } from '#core/board/boards.ts';
import { faultDevices, faultKindsOf, type Scenario } from '#core/formats/scenario.ts';
import { rollOf } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { aloft, run } from '../testing/aloft.ts';
import { demoCraft, torvholm } from '../testing/demoCraft.ts';
import { Rehearsal, rehearse } from './rehearsal.ts';

/** Flown from 1.5 km out; the link is lost after 12 s. */
function flight(name: 'turnstone' | 'avocet', more: Partial<Scenario> = {}) {
  const craft = demoCraft(name);
  return {
    airframe: craft.airframe,
    board: boardOf(craft.board.target)!,
    values: { ...pfadCatalogue.defaults(), ...craft.settings },
    truth: craft.bench!,
    site: torvholm,
    endsEarly: 'circling' as const,
    scenario: {
      seed: 4,
      home: torvholm.home,
      wind: { speedMps: 3, fromDeg: 230, gustMps: 0.5 },
      outbound: { bearingDeg: 90, distanceM: 1500, heightM: 200, begins: 'there' as const },
      events: [{ atS: 12, do: 'link-lost' as const }],
      limitS: 900,
      ...more,
    },
  };
}

describe('a rehearsal that begins in the air', () => {
  it('begins there, armed, and the board knows where it is', () => {
    const r = new Rehearsal(flight('turnstone'));
    const { plant, pfad } = r.craft;
    expect(Math.hypot(plant.position[0]!, plant.position[1]! - 1500)).toBeLessThan(15);
    const c = pfad.controller;
    expect(c.armed).toBe(true);
    expect(c.homeSet).toBe(true);
    for (let k = 0; k < 20; k++) {
      r.advance(500);
      expect(
        Math.hypot(c.position.north - plant.position[0]!, c.position.east - plant.position[1]!),
      ).toBeLessThan(8);
    }
    expect(Math.abs(rollOf(plant.attitude))).toBeLessThan(60 * DEG);
  });

  it('comes home from there, on wings and on rotors, with the charge it was given', () => {
    for (const name of ['turnstone', 'avocet'] as const) {
      const input = flight(name, { batteryShare: 0.7 });
      const truth = { ...input.truth, iron: { x: 0, y: 0, z: 0, perAmp: 0 } };
      const result = rehearse({ ...input, truth });
      expect(result.verdict).toBe('home');
      expect(result.margins.batteryShare).toBeLessThan(0.7);
      expect(result.decisions.some((d) => /No fix/.test(d.text))).toBe(false);
    }
  });
});

describe('parts that fail', () => {
  it('a motor that stops gives no thrust and draws nothing, and runs again', () => {
    const f = aloft(turnstone);
    run(f, 2);
    f.fail('motor', 'dead');
    run(f, 1.5);
    const [first, second] = f.plant.motors;
    expect(first!.currentA).toBe(0);
    expect(first!.thrust).toBeLessThan(0.2 * second!.thrust);
    f.fail('motor', 'none');
    run(f, 1);
    expect(first!.currentA).toBeGreaterThan(0);
  });

  it('a surface that sticks stays where it stood', () => {
    const f = aloft(turnstone);
    run(f, 1);
    f.fail('surface', 'stuck');
    const stood = f.plant.deflections[0]!;
    f.radio.roll = 0.6;
    run(f, 0.5);
    expect(f.plant.deflections[0]).toBe(stood);
    expect(f.plant.deflections[1]).not.toBe(0);
  });

  it('a cell that collapses takes its voltage and resists', () => {
    const f = aloft(turnstone);
    run(f, 1);
    const { battery } = f.plant;
    const [open, ohm] = [battery.openV, battery.resistanceOhm];
    f.fail('cell', 'dead');
    expect(battery.openV).toBeCloseTo((open * 3) / 4, 1);
    expect(battery.resistanceOhm).toBeGreaterThan(ohm);
    expect(f.fail('cell', 'none')).toBe(false);
  });

  it('a loose lead takes the voltage now and then, and not once it holds again', () => {
    const f = aloft(turnstone);
    run(f, 1);
    const ohm = f.plant.battery.resistanceOhm;
    f.fail('lead', 'intermittent');
    let [least, bad] = [99, 0];
    run(f, 4, () => {
      least = Math.min(least, f.plant.battery.voltage);
      if (f.plant.battery.resistanceOhm > ohm + 0.1) bad++;
    });
    expect(bad).toBeGreaterThan(400);
    expect(bad).toBeLessThan(3600);
    expect(least).toBeLessThan(f.plant.battery.openV - 2);
    f.fail('lead', 'none');
    expect(f.plant.battery.resistanceOhm).toBeCloseTo(ohm, 9);
  });

  it('a receiver that holds hides the loss', () => {
    const f = aloft(turnstone);
    f.fail('receiver', 'stuck');
    run(f, 1);
    f.radio.on = false;
    run(f, 4);
    expect(f.pfad.controller.lost.state).toBe('fine');
  });

  it('a twin comes home on one motor; a rotor that stops is said to have stopped', () => {
    const dead = { atS: 30, do: 'fault' as const, device: 'motor' as const, fault: 'dead' as const };
    const events = [{ atS: 12, do: 'link-lost' as const }, dead];
    expect(rehearse(flight('turnstone', { events })).verdict).toBe('home');
    const rotor = rehearse(flight('avocet', { events }));
    expect(rotor.verdict).not.toBe('home');
    expect(rotor.reason).toMatch(/first motor stopped at 30 s/);
  });

  it('each device fails in ways of its own', () => {
    for (const device of faultDevices) expect(faultKindsOf(device).length).toBeGreaterThan(1);
    expect(faultKindsOf('motor')).toEqual(['none', 'dead']);
    expect(faultKindsOf('gnss')).toContain('jammed');
    expect(faultKindsOf('barometer')).not.toContain('jammed');
  });
});
