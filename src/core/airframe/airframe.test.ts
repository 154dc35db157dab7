import { describe, expect, it } from 'vitest';
import { kinds } from './actuators.ts';
import { actuatorsOf, airframeSchema, isRotorcraft, wingOf } from './airframe.ts';
import { flock, plainCraft, turnstone } from './library.ts';
import { inertiaOf, massParts } from './massModel.ts';
import { rearView, topView } from './outline.ts';
import { hoverOf, meanChord, performanceOf, trimLevel } from './performance.ts';

describe('Turnstone', () => {
  it('is described as the scenario has it', () => {
    expect(airframeSchema.parse(turnstone)).toEqual(turnstone);
    expect([
      wingOf(turnstone).spanM,
      turnstone.massKg,
      turnstone.battery.cells,
      turnstone.battery.capacityMah,
    ]).toEqual([1.6, 2.1, 4, 5000]);
    expect(actuatorsOf(turnstone)).toEqual([
      'left-motor',
      'right-motor',
      'left-aileron',
      'right-aileron',
      'elevator',
      'rudder',
    ]);
  });

  it.each([
    ['massKg', -1],
    ['massKg', Number.NaN],
    ['massKg', Number.POSITIVE_INFINITY],
    ['name', ''],
    ['lengthM', 1000],
  ])('is refused with %s %s', (key, value) => {
    expect(airframeSchema.safeParse({ ...turnstone, [key]: value }).success).toBe(false);
  });
});

describe('the mean chord', () => {
  it('is the chord of a rectangle, and two thirds of a triangle’s root', () => {
    const plan = { ...wingOf(turnstone), rootChordM: 0.3, tipChordM: 0.3, rootAftM: 0.2, tipAftM: 0.2 };
    expect(meanChord(plan)).toEqual({ chordM: expect.closeTo(0.3, 9), leadingAftM: expect.closeTo(0.2, 9) });
    expect(meanChord({ ...plan, tipChordM: 1e-9 }).chordM).toBeCloseTo(0.2, 6);
  });
});

describe('the flock', () => {
  it.each(flock.map((a) => [a.name, a] as const))('%s is a whole craft whose parts add up', (_, a) => {
    expect(airframeSchema.parse(a)).toEqual(a);
    const parts = massParts(a);
    expect(parts.reduce((s, p) => s + p.massKg, 0)).toBeCloseTo(a.massKg, 9);
    for (const p of parts) expect(p.massKg).toBeGreaterThan(0);
    const balance = parts.reduce((s, p) => s + p.massKg * p.aftM, 0) / a.massKg;
    expect(Math.abs(balance - a.cgAftM)).toBeLessThan(0.005);
  });

  it.each(flock.filter((a) => !isRotorcraft(a)).map((a) => [a.name, a] as const))(
    '%s balances, trims from slow to fast and has thrust to spare',
    (_, a) => {
      const p = performanceOf(a);
      expect(p.staticMargin).toBeGreaterThan(0.05);
      expect(p.staticMargin).toBeLessThan(0.2);
      for (const k of [1.3, 1.8, 2.4]) {
        const trim = trimLevel(a, k * p.stallMps);
        expect(Math.abs(trim!.pitch)).toBeLessThan(0.7);
      }
    },
  );

  it('has a plain beginning for every kind', () => {
    for (const kind of kinds) {
      const craft = plainCraft(kind);
      expect(airframeSchema.safeParse(craft).success).toBe(true);
      expect(craft.kind).toBe(kind);
      if (isRotorcraft(craft)) expect(hoverOf(craft).thrustToWeight).toBeGreaterThan(2);
      else expect(performanceOf(craft).staticMargin).toBeGreaterThan(0.05);
    }
  });
});

describe('inertia', () => {
  it('grows with the square of the size and obeys the triangle rule of a body', () => {
    const i = inertiaOf(turnstone);
    expect(i.xx + i.yy).toBeGreaterThan(i.zz);
    expect(i.zz).toBeGreaterThan(i.yy);
    // Twice the mass, and it is the structure that grows.
    const twice = inertiaOf({ ...turnstone, massKg: 4.2 });
    expect(twice.yy / i.yy).toBeGreaterThan(1.7);
  });
});

describe('the drawing', () => {
  const top = topView(turnstone);

  it('is as wide as the span and the same on both sides', () => {
    const xs = top.planforms[0]!.map((p) => p[0]);
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(1.6 * Math.cos((3.5 * Math.PI) / 180), 9);
    const left = top.surfaces.find((s) => s.id === 'left-aileron')!;
    const right = top.surfaces.find((s) => s.id === 'right-aileron')!;
    expect(left.centre[0]).toBeCloseTo(-right.centre[0], 9);
    expect(left.centre[1]).toBeCloseTo(right.centre[1], 9);
  });

  it('keeps every aileron inside its wing', () => {
    const ys = top.planforms[0]!.map((p) => p[1]);
    for (const s of top.surfaces.filter((x) => x.id.endsWith('aileron'))) {
      for (const [x, y] of s.polygons[0]!) {
        expect(Math.abs(x)).toBeLessThanOrEqual(0.8);
        expect(y).toBeGreaterThan(Math.min(...ys));
        expect(y).toBeLessThanOrEqual(Math.max(...ys) + 1e-9);
      }
    }
  });

  it('shows left on the left from above and from behind', () => {
    expect(top.motors.find((m) => m.id === 'left-motor')!.centre[0]).toBeLessThan(0);
    const rear = rearView(turnstone);
    expect(rear.motors.find((m) => m.id === 'left-motor')!.at[0]).toBeLessThan(0);
    expect(rear.surfaces.find((s) => s.id === 'left-aileron')!.lines[0]!.to[0]).toBeLessThan(0);
    expect(rear.surfaces.find((s) => s.id === 'elevator')!.lines).toHaveLength(2);
  });

  it('rises with dihedral towards the tips', () => {
    const wing = rearView(turnstone).lines[1]!;
    expect(wing.to[1]).toBeCloseTo(0.8 * Math.sin((3.5 * Math.PI) / 180), 9);
  });
});
