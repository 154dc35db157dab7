import { describe, expect, it } from 'vitest';
import { BenchMoves } from '#firmware/benchMoves.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { compileConfig } from '#firmware/config.ts';
import { Outputs } from '#firmware/outputs.ts';
import { demoCraft } from '../../testing/demoCraft.ts';
import { type ActuatorId, isMotor } from '../airframe/actuators.ts';
import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { dutyFor, hoverOf, stallSpeed, trimLevel } from '../airframe/performance.ts';
import { Plant } from '../flight/plant.ts';
import { Servo } from '../flight/servo.ts';
import { setEuler } from '../math/quaternion.ts';
import { Random } from '../math/random.ts';
import type { Values } from '../settings/catalogue.ts';
import { authorityOf, lackingAxes, type MixRow, mixRows } from './authority.ts';
import { commandedBy } from './commanded.ts';

const craftNames = ['turnstone', 'dunlin', 'sandpiper', 'knot', 'ruff', 'avocet'] as const;
const read = (name: (typeof craftNames)[number]) => {
  const { airframe, settings } = demoCraft(name);
  return { airframe, values: { ...pfadCatalogue.defaults(), ...settings } as Values };
};

/** Turning that the plant gains in a moment, rad/s^2, held in level flight or a hover while the firmware's last stage has a command. */
function plantTurns(
  airframe: Airframe,
  values: Values,
  speed: number,
  axis: 'roll' | 'pitch' | 'yaw',
  command: number,
) {
  const plant = new Plant(airframe);
  const rotors = isRotorcraft(airframe);
  const trim = rotors ? null : trimLevel(airframe, speed);
  const alpha = rotors ? 0 : (trim?.alpha ?? 0.15);
  const throttle = rotors ? hoverOf(airframe).throttle : dutyFor(airframe, trim?.thrust ?? 0, speed);
  const outputs = new Outputs(compileConfig(values), 0.001);
  const asked = { roll: 0, pitch: 0, yaw: 0, throttle, flap: 0, [axis]: command };
  const bench = new BenchMoves();
  // Half empty, as authority is told.
  plant.battery.usedAs = 0.45 * plant.battery.capacityAs;
  const servos = airframe.surfaces.map((s) => new Servo(s));
  const last = new Float64Array(3);
  for (let k = 0; k < 800; k++) {
    plant.position.set([0, 0, 0]);
    plant.velocity.set([speed, 0, 0]);
    setEuler(plant.attitude, 0, alpha, 0);
    plant.rates.fill(0);
    outputs.step(asked, bench, true);
    for (const [id, at] of Object.entries(commandedBy(values, outputs.pulses))) {
      const i = plant.indexOf(id);
      if (isMotor(id as ActuatorId)) plant.duties[i] = at;
      else plant.deflections[i] = servos[i]!.at(at);
    }
    plant.step(new Float64Array(3), 0.001);
    last.set(plant.rates);
  }
  return [...last].map((w) => w / 0.001);
}

/** The order of the largest minor that is not nought. */
function rankByMinors(m: readonly (readonly number[])[]): number {
  const two = (a: number, b: number, c: number, d: number) => m[a]![c]! * m[b]![d]! - m[a]![d]! * m[b]![c]!;
  const pairs = [
    [0, 1],
    [0, 2],
    [1, 2],
  ] as const;
  const three = m[0]![0]! * two(1, 2, 1, 2) - m[0]![1]! * two(1, 2, 0, 2) + m[0]![2]! * two(1, 2, 0, 1);
  if (Math.abs(three) > 1e6) return 3;
  if (pairs.some(([a, b]) => pairs.some(([c, d]) => Math.abs(two(a, b, c, d)) > 1e3))) return 2;
  return m.flat().some((v) => Math.abs(v) > 0.05) ? 1 : 0;
}

describe('authority', () => {
  it.each(craftNames)('of %s is within a tenth of what its plant does', (name) => {
    const { airframe, values } = read(name);
    const speed = isRotorcraft(airframe) ? 0 : 16;
    const { turns } = authorityOf(airframe, values, speed);
    (['roll', 'pitch', 'yaw'] as const).forEach((axis, i) => {
      const up = plantTurns(airframe, values, speed, axis, 1)[i]!;
      const down = plantTurns(airframe, values, speed, axis, -1)[i]!;
      const seen = (up - down) / 2;
      if (Math.abs(seen) < 0.3) expect(Math.abs(turns[i]![i]!)).toBeLessThan(0.5);
      else {
        expect(turns[i]![i]! / seen).toBeGreaterThan(0.9);
        expect(turns[i]![i]! / seen).toBeLessThan(1.1);
      }
    });
  });

  it('grows with the square of speed on wings, and is told at the stall when nothing is asked', () => {
    const { airframe, values } = read('turnstone');
    const [slow, fast] = [authorityOf(airframe, values, 14), authorityOf(airframe, values, 28)];
    expect(fast.turns[0][0] / slow.turns[0][0]).toBeCloseTo(4, 0);
    expect(authorityOf(airframe, values).speedMps).toBeCloseTo(stallSpeed(airframe), 6);
  });

  it('says which axis nothing turns, and what is lost where commands add up', () => {
    const lacking = (name: (typeof craftNames)[number]) => {
      const { airframe, values } = read(name);
      return authorityOf(airframe, values).lacking;
    };
    expect(lacking('turnstone')).toEqual([]);
    expect(lacking('avocet')).toEqual([]);
    expect(lacking('sandpiper')).toEqual([]);
    // A wing with elevons alone has no command about yaw.
    expect(lacking('dunlin')).toEqual(['yaw']);
    const { airframe, values } = read('dunlin');
    const [both] = authorityOf(airframe, values).together;
    // 0.6 + 0.7 of the travel: three tenths of one of them find no room.
    expect(both!.commands).toEqual(['roll', 'pitch']);
    const [{ mix }] = mixRows(airframe, values).filter((r) => r.drives === 'left-elevon') as [MixRow];
    expect(both!.lost.roll).toBeCloseTo(
      (Math.abs(mix.roll) + Math.abs(mix.pitch) - 1) / (2 * Math.abs(mix.roll)),
      2,
    );
    const turnstone = read('turnstone');
    expect(authorityOf(turnstone.airframe, turnstone.values).together[0]!.lost).toMatchObject({ roll: 0 });
    // Without its aileron on an output it does not roll.
    const torn = { ...turnstone.values };
    for (const row of mixRows(turnstone.airframe, torn))
      if (row.drives.endsWith('aileron') || row.drives === 'rudder')
        torn[`out.${row.output}.drives`] = 'nothing';
    expect(authorityOf(turnstone.airframe, { ...torn, 'mix.differential': 0 }).lacking).toEqual([
      'roll',
      'yaw',
    ]);
  });

  it('finds as many axes as the minors of the matrix have, 1000 random ones', () => {
    const random = new Random(31);
    for (let go = 0; go < 1000; go++) {
      const m = [0, 1, 2].map(() => [0, 1, 2].map(() => 2e5 * (random.uniform() - 0.5)));
      // Some rows are none, or made of the others.
      if (go % 3 === 1) m[go % 2] = m[2]!.map((v) => v * 0);
      if (go % 3 === 2) m[1] = m[0]!.map((v, j) => v * 0.7 + (go % 2 ? 0 : 0.2 * m[2]![j]!));
      if (go % 7 === 0) m[0] = m[1]!.map((v) => -2 * v);
      expect(3 - lackingAxes(m).length).toBe(rankByMinors(m));
    }
  });
});
