import { describe, expect, it } from 'vitest';
import { Plant } from '#core/flight/plant.ts';
import { MOSSVIK } from '#core/formats/scenario.ts';
import { eastOf, northOf } from '#core/navigation/earth.ts';
import { Readings } from '#firmware/readings.ts';
import { demoCraft } from '../testing/demoCraft.ts';
import { Radio } from './radio.ts';
import { Sensors } from './sensors.ts';
import { Wiring } from './wiring.ts';

const craft = demoCraft('turnstone');

describe('the radio', () => {
  it('sends throttle first, as the demo’s receiver does, fifty frames a second', () => {
    const radio = new Radio(craft.bench!.channels);
    const r = new Readings();
    radio.throttle = 0.25;
    radio.roll = 1;
    radio.pitch = -1;
    let frames = 0;
    for (let k = 0; k < 1000; k++) {
      radio.step(r, true, 0.001);
      if (r.receiverFresh) frames++;
    }
    expect(frames).toBeGreaterThanOrEqual(50);
    expect(frames).toBeLessThanOrEqual(51);
    expect([...r.channels.subarray(0, 4)]).toEqual([1250, 2000, 1000, 1500]);
  });

  it('falls silent when it is off, and keeps no made-up values coming', () => {
    const radio = new Radio(craft.bench!.channels);
    const r = new Readings();
    radio.on = false;
    for (let k = 0; k < 500; k++) {
      radio.step(r, true, 0.001);
      expect(r.receiverFresh).toBe(false);
    }
    expect(r.linkQuality).toBe(0);
  });
});

describe('the wiring', () => {
  const rig = () => {
    const plant = new Plant(craft.airframe);
    return {
      plant,
      wiring: new Wiring(craft.airframe, craft.bench!, plant),
      pulses: new Float64Array(9).fill(1500),
    };
  };
  const surface = (id: string) => craft.airframe.surfaces.findIndex((s) => s.id === id);

  it('turns a long pulse into trailing edge down, and up where the pushrod is on the far side', () => {
    const { plant, wiring, pulses } = rig();
    pulses[2] = 2000;
    pulses[3] = 2000;
    for (let k = 0; k < 400; k++) wiring.step(pulses, plant, true, 0.001);
    expect(wiring.surfaces[surface('left-aileron')]).toBe(1);
    expect(wiring.surfaces[surface('elevator')]).toBe(-1);
    expect(plant.deflections[surface('left-aileron')]).toBeCloseTo((22 * Math.PI) / 180, 9);
  });

  it('moves no faster than a servo does', () => {
    const { plant, wiring, pulses } = rig();
    pulses[2] = 2000;
    wiring.step(pulses, plant, true, 0.001);
    expect(wiring.surfaces[surface('left-aileron')]).toBeLessThan(0.01);
  });

  it('stands still without power or pulses', () => {
    const { plant, wiring, pulses } = rig();
    pulses.fill(2000);
    for (let k = 0; k < 400; k++) wiring.step(pulses, plant, false, 0.001);
    expect(Math.max(...wiring.surfaces.map(Math.abs))).toBe(0);
    expect(Math.max(...plant.duties)).toBe(0);
    pulses.fill(0);
    for (let k = 0; k < 400; k++) wiring.step(pulses, plant, true, 0.001);
    expect(Math.max(...wiring.surfaces.map(Math.abs))).toBe(0);
  });
});

describe('the sensors', () => {
  it('scatter about the truth', () => {
    const plant = new Plant(craft.airframe);
    plant.position.set([120, -340, -200]);
    plant.rates.set([0.3, -0.1, 0.2]);
    plant.specificForce.set([0.5, 0, -9.8]);
    plant.airVelocity.set([17, 0, 0.4]);
    const sensors = new Sensors(MOSSVIK, 4);
    const r = new Readings();
    const mean = { p: 0, z: 0, air: 0, north: 0, east: 0, fixes: 0 };
    const n = 60_000;
    for (let k = 0; k < n; k++) {
      sensors.step(plant, r, true, true, 0.001);
      mean.p += r.gyro[0]! / n;
      mean.z += r.accel[2]! / n;
      mean.air += r.airspeedMps / n;
      if (r.gnssFresh) {
        mean.fixes++;
        mean.north += northOf(MOSSVIK.lat, r.lat);
        mean.east += eastOf(MOSSVIK.lat, MOSSVIK.lon, r.lon);
      }
    }
    expect(mean.fixes).toBeGreaterThan(590);
    expect(Math.abs(mean.p - 0.3)).toBeLessThan(0.02);
    expect(Math.abs(mean.z + 9.8)).toBeLessThan(0.05);
    expect(Math.abs(mean.air - 17)).toBeLessThan(0.05);
    expect(Math.abs(mean.north / mean.fixes - 120)).toBeLessThan(4);
    expect(Math.abs(mean.east / mean.fixes + 340)).toBeLessThan(4);
  });

  it('say nothing of a place when the port listens at another speed', () => {
    const sensors = new Sensors(MOSSVIK, 4);
    const r = new Readings();
    const plant = new Plant(craft.airframe);
    for (let k = 0; k < 2000; k++) {
      sensors.step(plant, r, false, true, 0.001);
      expect(r.gnssFresh).toBe(false);
    }
  });

  it('measure no battery that is not in', () => {
    const sensors = new Sensors(MOSSVIK, 4);
    const r = new Readings();
    sensors.step(new Plant(craft.airframe), r, true, false, 0.001);
    expect([r.supplyV, r.servoRailV]).toEqual([0, 0]);
  });
});
