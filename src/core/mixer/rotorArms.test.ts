import { describe, expect, it } from 'vitest';
import { compileConfig } from '../../firmware/config.ts';
import { prepared } from '../../testing/aloft.ts';
import type { Kind } from '../airframe/actuators.ts';
import type { Airframe } from '../airframe/airframe.ts';
import { avocet } from '../airframe/library.ts';
import { authorityOf } from './authority.ts';
import { roleMix } from './roles.ts';
import { armMixes, armsUnlike, editsFromArms, type RotorArm } from './rotorArms.ts';

const at = (bearingDeg: number, turns: RotorArm['turns'], reach = 0.25): RotorArm => ({
  right: reach * Math.sin((bearingDeg * Math.PI) / 180),
  ahead: reach * Math.cos((bearingDeg * Math.PI) / 180),
  turns,
});

describe('rotors by their arms', () => {
  it.each<[Kind, readonly (readonly [Parameters<typeof roleMix>[0], number])[]]>([
    [
      'quad-x',
      [
        ['front-right-motor', 45],
        ['front-left-motor', -45],
        ['rear-right-motor', 135],
        ['rear-left-motor', -135],
      ],
    ],
    [
      'quad-plus',
      [
        ['front-motor', 0],
        ['rear-motor', 180],
        ['left-motor', -90],
        ['right-motor', 90],
      ],
    ],
    [
      'hex',
      [
        ['front-right-motor', 30],
        ['right-motor', 90],
        ['rear-right-motor', 150],
        ['rear-left-motor', -150],
        ['left-motor', -90],
        ['front-left-motor', -30],
      ],
    ],
  ])('come out as the table of a regular %s', (kind, rotors) => {
    const mixes = armMixes(
      rotors.map(([id, bearing]) => at(bearing, roleMix(id, kind).yaw > 0 ? 'anticlockwise' : 'clockwise')),
    )!;
    rotors.forEach(([id], i) => {
      const usual = roleMix(id, kind);
      for (const axis of ['roll', 'pitch', 'yaw', 'throttle'] as const)
        expect(mixes[i]![axis], `${id} ${axis}`).toBeCloseTo(usual[axis], 9);
    });
  });

  it('turn any frame about one axis at a time, and lift it no more', () => {
    // Front arms short and wide, rear ones long and narrow, the front right one bent outwards.
    const arms = [
      { right: 0.16, ahead: 0.07, turns: 'anticlockwise' },
      { right: -0.13, ahead: 0.08, turns: 'clockwise' },
      { right: 0.08, ahead: -0.12, turns: 'clockwise' },
      { right: -0.08, ahead: -0.12, turns: 'anticlockwise' },
    ] as const;
    const mixes = armMixes(arms)!;
    for (const axis of ['roll', 'pitch', 'yaw'] as const) {
      const sum = (of: (a: RotorArm) => number) => mixes.reduce((s, m, i) => s + m[axis] * of(arms[i]!), 0);
      const does = {
        roll: sum((a) => -a.right),
        pitch: sum((a) => a.ahead),
        yaw: sum((a) => (a.turns === 'anticlockwise' ? 1 : -1)),
      };
      expect(
        sum(() => 1),
        `${axis} lifts`,
      ).toBeCloseTo(0, 9);
      for (const other of ['roll', 'pitch', 'yaw'] as const)
        if (other === axis) expect(does[other]).toBeGreaterThan(0.1);
        else expect(does[other], `${axis} does ${other}`).toBeCloseTo(0, 9);
      expect(Math.max(...mixes.map((m) => Math.abs(m[axis])))).toBeCloseTo(1, 9);
    }
  });

  it('leave yaw to a servo where they cannot, and refuse what cannot fly', () => {
    const three = armMixes([at(60, 'clockwise'), at(-60, 'clockwise'), at(180, 'clockwise')])!;
    expect(three.map((m) => m.yaw)).toEqual([0, 0, 0]);
    expect(three[0]!.roll).toBeCloseTo(-1, 9);
    expect(armMixes([at(0, 'clockwise'), at(180, 'anticlockwise')])).toBeNull();
    expect(armMixes([])).toBeNull();
    expect(armMixes([at(0, 'clockwise', 0)])).toBeNull();
  });
});

describe('a quad of another shape', () => {
  const bent: Airframe = {
    ...avocet,
    motors: avocet.motors.map((m) => (m.id === 'front-right-motor' ? { ...m, rightM: 2.2 * m.rightM } : m)),
  };
  const usual = prepared(bent);
  const own = { ...usual, ...editsFromArms(bent, usual) };

  it('rolls without pitching and yawing by its arms, not by the usual shape', () => {
    const couples = (values: typeof usual) => {
      const { turns } = authorityOf(bent, values);
      return Math.max(Math.abs(turns[1]![0]!), Math.abs(turns[0]![1]!)) / turns[0]![0]!;
    };
    expect(couples(usual)).toBeGreaterThan(0.1);
    expect(couples(own)).toBeLessThan(0.05);
  });

  it('is mixed so by the firmware', () => {
    const by = compileConfig(own).outputs.filter((o) => o.isMotor);
    const table = compileConfig(usual).outputs.filter((o) => o.isMotor);
    expect(by.map((o) => o.mix.roll)).not.toEqual(table.map((o) => o.mix.roll));
    expect(by.reduce((sum, o) => sum + o.mix.roll, 0)).toBeCloseTo(0, 9);
  });

  it('is known by the board as long as the craft is not changed', () => {
    expect(armsUnlike(bent, own)).toEqual([]);
    expect(armsUnlike(avocet, own).map((m) => m.id)).toEqual(['front-right-motor']);
    expect(armsUnlike(bent, usual)).toEqual([]);
  });
});
