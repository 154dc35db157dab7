import { describe, expect, it } from 'vitest';
import { demoValues } from '../../testing/demoCraft.ts';
import { boards } from '../board/boards.ts';
import { describeBoard } from '../board/describe.ts';
import { fellF7 } from '../board/fellF7.ts';
import type { Values } from '../settings/catalogue.ts';
import { stripFault, stripOutputs } from './strip.ts';

const values: Values = { ...demoValues('turnstone'), 'light.lamps': 9 };
const of = (change: Record<string, string | number>) => stripFault({ ...values, ...change }, fellF7);

describe('where a strip of lamps hangs', () => {
  it('is an output that drives nothing, on a timer that drives nothing else', () => {
    const free = stripOutputs(values, fellF7);
    expect(free.length).toBeGreaterThan(0);
    for (const n of free) {
      expect(values[`out.${n}.drives`]).toBe('nothing');
      const { timer } = fellF7.pads.find((p) => p.output === n)!;
      for (const p of fellF7.pads.filter((q) => q.timer === timer))
        expect(values[`out.${p.output}.drives`]).toBe('nothing');
      expect(of({ 'light.output': n })).toBeNull();
    }
  });

  it('is told where it is none, taken, shared, or on no pad', () => {
    expect(of({ 'light.output': 0 })).toContain('they stay dark');
    expect(of({ 'light.output': 3 })).toBe(
      'The strip hangs on output 3, but output 3 drives the left aileron.',
    );
    expect(of({ 'light.output': 12 })).toContain('has no pad on this board');
    const [n] = stripOutputs(values, fellF7);
    const { timer } = fellF7.pads.find((p) => p.output === n)!;
    const beside = fellF7.pads.find((p) => p.timer === timer && p.output !== n);
    if (beside)
      expect(of({ 'light.output': n!, [`out.${beside.output}.drives`]: 'rudder' })).toContain(
        'shares its timer',
      );
  });

  it('does not matter without lamps, nor to a board that has none', () => {
    expect(of({ 'light.lamps': 0, 'light.output': 3 })).toBeNull();
    const { 'light.lamps': _, ...older } = values;
    expect(stripFault(older, fellF7)).toBeNull();
  });

  it('never is one whose timer cannot send colours, on any board', () => {
    for (const model of boards) {
      const description = describeBoard(model);
      for (const n of stripOutputs({}, description)) {
        const { timer } = description.pads.find((p) => p.output === n)!;
        expect(model.timers.find((t) => t.n === timer)!.frames, `${model.name} ${n}`).toBe(true);
      }
    }
  });
});
