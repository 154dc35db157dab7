import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '../../firmware/catalogue.ts';
import { prepared } from '../../testing/aloft.ts';
import { anyCraft } from '../../testing/anyCraft.ts';
import { findAll } from '../findings/findings.ts';
import { kinds } from './actuators.ts';
import { type Airframe, withPlanform } from './airframe.ts';
import { unfitness } from './fitness.ts';
import { launchOf, launchSuffices, launchThatSuffices } from './launch.ts';
import { avocet, dunlin, flock, plainCraft, ruff, turnstone } from './library.ts';
import { rotorBalance, stallSpeed } from './performance.ts';

const ids = (a: Airframe) => unfitness(a).map((u) => `${u.id}: ${u.grade}`);
const withMotors = (a: Airframe, change: object): Airframe => ({
  ...a,
  motors: a.motors.map((m) => ({ ...m, ...change })),
});

describe('what no settings can mend', () => {
  it('is nothing on the craft of the flock', () => {
    for (const a of flock) expect(ids(a)).toEqual([]);
  });

  it('a ten-inch propeller on a motor of 2100 rpm/V, with the current it would draw', () => {
    const wild = withMotors(turnstone, {
      propDiameterM: 0.254,
      propPitchM: 0.14,
      kvRpmPerV: 2100,
      maxCurrentA: 30,
    });
    expect(ids(wild)).toContain('propeller: cannot');
    expect(unfitness(wild).find((u) => u.id === 'propeller')!.why).toMatch(
      /it would draw \d{2,3} A; .* carry 30 A/,
    );
    const findings = findAll({ airframe: wild, values: prepared(turnstone), catalogue: pfadCatalogue });
    expect(findings.find((f) => f.id === 'unfit.propeller')).toMatchObject({
      severity: 'blocks',
      station: 'airframe',
    });
  });

  it('a pack whose resistance eats the power', () => {
    const tired = { ...avocet, battery: { ...avocet.battery, cellResistanceOhm: 0.2 } };
    expect(ids(tired)).toEqual(expect.arrayContaining(['pack: cannot', 'hover-pack: badly']));
  });

  it('too little thrust, on a wing and on rotors', () => {
    expect(ids({ ...withMotors(turnstone, { kvRpmPerV: 330 }) })).toContain('thrust: cannot');
    expect(ids({ ...avocet, massKg: 5.2 })).toContain('thrust: cannot');
  });

  it('a balance that lies away from the middle of the rotors', () => {
    // A cross with arms of r: one motor stands on the line, so it alone balances by 1 + n o r / (2 r^2).
    const arm = 0.2;
    const plus = plainCraft('quad-plus');
    const k = arm / (Math.max(...plus.motors.map((m) => m.aftM)) - plus.cgAftM);
    const motors = plus.motors.map((m) => ({
      ...m,
      aftM: plus.cgAftM + k * (m.aftM - plus.cgAftM),
      rightM: k * m.rightM,
    }));
    const off = (by: number): Airframe => ({ ...plus, motors, cgAftM: plus.cgAftM + by });
    expect(rotorBalance(off(0)).hardest).toBeCloseTo(1, 9);
    expect(rotorBalance(off(0.01)).hardest).toBeCloseTo(1 + (4 * 0.01) / (2 * arm), 9);
    expect(ids(off(0.005))).toEqual(ids(plus));
    expect(ids(off(0.02))).toContain('balance: badly');
    expect(ids(off(0.06))).toContain('balance: cannot');
    expect(unfitness(off(0.02)).find((u) => u.id === 'balance')!.why).toMatch(
      /^The balance lies 20 mm behind the middle of the rotors: one has to push 20 % more/,
    );
  });

  it('a servo that takes a second, motors that answer too slowly, momentum that does not cancel', () => {
    const lazy: Airframe = {
      ...turnstone,
      surfaces: turnstone.surfaces.map((s) => ({
        ...s,
        linkage: { servoSpeedDegPerS: 35, servoTravelDeg: 45, slopDeg: 0.3, armMm: 10, hornMm: 15 },
      })),
    };
    expect(ids(lazy)).toContain('servo: cannot');
    // Found among craft by chance: a small tricopter with motors of a far larger one.
    expect(ids(anyCraft('tri', 23))).toEqual(expect.arrayContaining(['lag: cannot', 'momentum: cannot']));
    expect(ids(ruff)).toEqual([]);
  });
});

describe('a launch', () => {
  it('by hand gives what an arm has: the energy of 2 kg at 10 m/s, hardly more speed however light', () => {
    // Kinetic energy of the craft and of the arm itself, without the run: 110 J.
    for (const massKg of [0.4, 1, 2.1, 4]) {
      const { mostMps } = launchOf({ ...turnstone, massKg })!;
      expect(0.5 * (massKg + 0.9) * (mostMps - 2.5) ** 2).toBeCloseTo(110, 6);
    }
    expect(launchOf({ ...turnstone, massKg: 0.2 })!.mostMps).toBeLessThan(17);
  });

  it('suffices for the flock, and not for a craft of two and a half times its mass, which is told what does', () => {
    for (const a of flock) expect(launchSuffices(a)).toBe(true);
    const heavy = { ...turnstone, massKg: 2.5 * turnstone.massKg };
    expect(launchSuffices(heavy)).toBe(false);
    expect(unfitness(heavy).find((u) => u.id === 'launch')!.title).toBe(
      'It is too heavy to be thrown by hand',
    );
    const other = launchThatSuffices(heavy);
    expect(other).not.toBe('hand');
    expect(launchSuffices({ ...heavy, launch: other })).toBe(true);
    expect(ids({ ...heavy, launch: other }).filter((x) => x.startsWith('launch'))).toEqual([]);
  });

  it('trusts half of the wind', () => {
    const calm = launchOf(turnstone)!;
    expect(calm.wantedMps).toBeCloseTo(1.35 * stallSpeed(turnstone), 9);
    const windy = launchOf(turnstone, 8)!;
    expect(calm.wantedMps - windy.wantedMps).toBeCloseTo(
      0.5 * 8 * (Math.log(2 / 0.03) / Math.log(10 / 0.03)),
      9,
    );
    expect(launchOf(avocet)).toBeNull();
    expect(launchOf({ ...turnstone, launch: 'wheels' })).toBeNull();
  });
});

describe('parts that collide', () => {
  const collide = (a: Airframe) =>
    unfitness(a)
      .map((u) => u.id)
      .filter((id) => id.startsWith('collide.'));

  it('are on none of the craft that are offered', () => {
    for (const a of [...flock, ...kinds.map(plainCraft)]) expect(collide(a), a.name).toEqual([]);
  });

  it('are found where a craft was scaled and one of them was not', () => {
    // A wing of half the span leaves the motors of the twin where they were.
    const near = withPlanform(turnstone, 'wing', { spanM: 0.4 });
    expect(collide(near)).toEqual(
      expect.arrayContaining(['collide.tip.left-motor', 'collide.tip.right-motor']),
    );
    const large = { ...avocet, motors: avocet.motors.map((m) => ({ ...m, propDiameterM: 0.3 })) };
    expect(collide(large).length).toBeGreaterThan(1);
    const fins = withPlanform(dunlin, 'wing', { spanM: 0.5 });
    expect(collide(fins)).toContain('collide.beyond.fin');
    const tail = withPlanform(turnstone, 'tail', { rootAftM: 2.5, tipAftM: 2.5 });
    expect(collide(tail)).toContain('collide.off.tail');
  });
});
