import { describe, expect, it } from 'vitest';
import { type ModeView, modeIds, switchedModes, whyNot } from './modes.ts';

const wing: ModeView = {
  rotorcraft: false,
  attitude: 'good',
  height: 'good',
  position: 'good',
  heading: true,
  homeSet: true,
  satellites: 12,
  satellitesToReturn: 6,
  routeByGround: false,
  groundKnown: true,
  routePoints: 3,
  flown: false,
};
const rotors: ModeView = { ...wing, rotorcraft: true };
const open = (v: ModeView) => modeIds.filter((m) => whyNot(m, v) === null);

describe('what a mode needs', () => {
  it('gives each kind of craft its own modes when all is well', () => {
    expect(open(wing)).toEqual(
      modeIds.filter((m) => !['hover', 'position', 'as-armed', 'from-home'].includes(m)),
    );
    expect(open(rotors)).toEqual(modeIds.filter((m) => !['manual', 'course', 'launch'].includes(m)));
  });

  it('takes away step by step what can no longer be flown, and says why', () => {
    expect(open({ ...wing, position: 'lost' })).toEqual([
      'manual',
      'rate',
      'horizon',
      'level',
      'height',
      'launch',
    ]);
    expect(open({ ...wing, position: 'lost', height: 'lost', flown: true })).toEqual([
      'manual',
      'rate',
      'horizon',
      'level',
    ]);
    expect(open({ ...wing, attitude: 'lost' })).toEqual(['manual', 'rate']);
    expect(whyNot('position', { ...rotors, heading: false })).toContain('compass');
    expect(whyNot('return', { ...wing, homeSet: false })).toContain('home');
    expect(whyNot('return', { ...wing, satellites: 4 })).toBe('Needs 6 satellites; 4 are used.');
    expect(whyNot('route', { ...wing, routePoints: 0 })).toContain('no points');
    expect(whyNot('launch', { ...wing, flown: true })).toContain('in the air');
  });

  it('has a reason that ends in a full stop for every mode that is closed', () => {
    for (const view of [wing, rotors])
      for (const mode of switchedModes) {
        const why = whyNot(mode, { ...view, attitude: 'lost', position: 'lost', height: 'lost' });
        if (why !== null) expect(why).toMatch(/^[A-Z].*\.$/);
      }
  });
});
