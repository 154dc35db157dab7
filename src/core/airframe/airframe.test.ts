import { describe, expect, it } from 'vitest';
import { actuatorsOf, airframeSchema } from './airframe.ts';
import { inertiaOf } from './massModel.ts';
import { rearView, topView } from './outline.ts';
import { meanChord } from './performance.ts';
import { turnstone } from './turnstone.ts';

describe('Turnstone', () => {
  it('is described as the scenario has it', () => {
    expect(airframeSchema.parse(turnstone)).toEqual(turnstone);
    expect([
      turnstone.wing.spanM,
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
    const plan = { ...turnstone.wing, rootChordM: 0.3, tipChordM: 0.3, rootAftM: 0.2, tipAftM: 0.2 };
    expect(meanChord(plan)).toEqual({ chordM: expect.closeTo(0.3, 9), leadingAftM: expect.closeTo(0.2, 9) });
    expect(meanChord({ ...plan, tipChordM: 1e-9 }).chordM).toBeCloseTo(0.2, 6);
  });
});

describe('inertia', () => {
  it('grows with the square of the size and obeys the triangle rule of a body', () => {
    const i = inertiaOf(turnstone);
    expect(i.xx + i.yy).toBeGreaterThan(i.zz);
    expect(i.zz).toBeGreaterThan(i.yy);
    const twice = inertiaOf({ ...turnstone, massKg: 4.2 });
    expect(twice.yy / i.yy).toBeCloseTo(2, 6);
  });
});

describe('the drawing', () => {
  const top = topView(turnstone);

  it('is as wide as the span and the same on both sides', () => {
    const xs = top.wing.map((p) => p[0]);
    expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(1.6, 9);
    const left = top.surfaces.find((s) => s.id === 'left-aileron')!;
    const right = top.surfaces.find((s) => s.id === 'right-aileron')!;
    expect(left.centre[0]).toBeCloseTo(-right.centre[0], 9);
    expect(left.centre[1]).toBeCloseTo(right.centre[1], 9);
  });

  it('keeps every aileron inside its wing', () => {
    const ys = top.wing.map((p) => p[1]);
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
    expect(wing.to[1]).toBeCloseTo(0.8 * Math.tan((3.5 * Math.PI) / 180), 9);
  });
});
