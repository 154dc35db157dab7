import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { avocet, turnstone } from '../airframe/library.ts';
import { inertiaOf, massParts } from '../airframe/massModel.ts';
import { supplyUnderLoad } from '../airframe/performance.ts';
import { fellF7 } from '../board/fellF7.ts';
import { axisAnswer } from './answers.ts';
import { answersOtherwise, otherwise } from './otherwise.ts';

const of = (airframe: typeof turnstone, id: string) => otherwise(airframe).find((o) => o.id === id)!.airframe;

describe('a craft that is not quite the one described', () => {
  it('weighs more or less with all its parts, and its inertia with them', () => {
    for (const [id, times] of [
      ['heavier', 1.2],
      ['lighter', 1 / 1.2],
    ] as const) {
      const other = of(turnstone, id);
      expect(massParts(other).reduce((sum, p) => sum + p.massKg, 0)).toBeCloseTo(times * turnstone.massKg, 6);
      expect(inertiaOf(other).yy / inertiaOf(turnstone).yy).toBeGreaterThan(times > 1 ? 1.05 : 0.7);
    }
  });

  it('has the supply of a pack with a tenth left', () => {
    const drop = supplyUnderLoad(of(avocet, 'drained')) / supplyUnderLoad(avocet);
    expect(drop).toBeGreaterThan(0.85);
    expect(drop).toBeLessThan(0.97);
  });

  it('swings less about pitch the farther forward it balances, as its static stability says', () => {
    const values = prepared(turnstone);
    const answers = answersOtherwise(turnstone, values, fellF7.pads, 'pitch', 16);
    const stiffness = (id: string) => answers.find((a) => a.id === id)!.answer!.loop.model.states[0]![1]!;
    const now = axisAnswer(turnstone, values, fellF7.pads, 'pitch', 16)!.loop.model.states[0]![1]!;
    expect(stiffness('nose-heavy')).toBeLessThan(now);
    expect(stiffness('tail-heavy')).toBeGreaterThan(now);
    // M_alpha changes by lift slope times the way: half as much again forward and aft, about its middle.
    expect((stiffness('nose-heavy') + stiffness('tail-heavy')) / 2 / now).toBeCloseTo(1, 1);
  });

  it('of rotors leaves more until it rings once its battery is nearly empty', () => {
    const values = prepared(avocet);
    const times = (id: string) =>
      answersOtherwise(avocet, values, fellF7.pads, 'roll', 0).find((a) => a.id === id)!.answer!.margin
        .gainLeft;
    const now = axisAnswer(avocet, values, fellF7.pads, 'roll', 0)!.margin.gainLeft;
    expect(times('drained')).toBeGreaterThan(now);
  });
});
