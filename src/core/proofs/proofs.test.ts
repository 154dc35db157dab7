import { describe, expect, it } from 'vitest';
import { demoValues } from '../../testing/demoCraft.ts';
import type { ActuatorId } from '../airframe/airframe.ts';
import { makeProof, stateOf, together, withProof } from './proofs.ts';
import { editsFromAnswer, editsFromStill, opposingDirection } from './surfaceAnswers.ts';

const values = demoValues('turnstone-as-found');
const at = '2026-06-01T09:00:00Z';

describe('what follows from an answer', () => {
  it('assigns the output and reverses it when the surface went up first', () => {
    expect(editsFromAnswer(values, 4, 'elevator', 'up', new Map())).toMatchObject({
      'out.4.drives': 'elevator',
      'out.4.reversed': true,
    });
    expect(editsFromAnswer(values, 4, 'elevator', 'down', new Map())).toMatchObject({
      'out.4.reversed': false,
    });
    expect(editsFromAnswer(values, 5, 'rudder', 'right', new Map())).toMatchObject({
      'out.5.reversed': true,
    });
  });

  it('lets go of the actuator on the output that claimed it, so that swapped pads come right in two answers', () => {
    const first = editsFromAnswer(values, 1, 'right-motor', 'turned', new Map());
    expect(first).toEqual({ 'out.1.drives': 'right-motor', 'out.2.drives': 'nothing' });
    const seen = new Map<ActuatorId, number>([['right-motor', 1]]);
    const second = editsFromAnswer({ ...values, ...first }, 2, 'left-motor', 'turned', seen);
    expect({ ...first, ...second }).toEqual({ 'out.1.drives': 'right-motor', 'out.2.drives': 'left-motor' });
  });

  it('keeps two outputs that were both seen to move one surface', () => {
    const seen = new Map<ActuatorId, number>([['elevator', 4]]);
    expect(editsFromAnswer(values, 7, 'elevator', 'down', seen)).toEqual({
      'out.7.drives': 'elevator',
      'out.7.reversed': false,
    });
  });

  it('frees an output on which nothing moved', () => {
    expect(editsFromStill(6)).toEqual({ 'out.6.drives': 'nothing' });
  });
});

describe('proofs', () => {
  it('go stale by themselves when reversal or assignment changes, and come back when it is put back', () => {
    const proof = makeProof(
      { kind: 'moved', output: 4, actuator: 'elevator', first: 'up' },
      values,
      'board',
      at,
    );
    expect(stateOf(proof, values)).toBe('proven');
    expect(stateOf(proof, { ...values, 'out.4.reversed': true })).toBe('stale');
    expect(stateOf(proof, { ...values, 'out.4.drives': 'rudder' })).toBe('stale');
    expect(stateOf(proof, { ...values, 'return.height': 500 })).toBe('proven');
    expect(stateOf(undefined, values)).toBe('none');
  });

  it('of a tilt go stale when any output or mixing changes', () => {
    const proof = makeProof(
      { kind: 'opposes', tilt: 'nose-up', tiltDeg: 20, surfaces: ['elevator'] },
      values,
      'board',
      at,
    );
    expect(stateOf(proof, { ...values, 'mix.aileronUp': 0.5 })).toBe('stale');
    expect(stateOf(proof, { ...values, 'out.3.reversed': true })).toBe('stale');
    expect(stateOf(proof, { ...values, 'nav.speed': 20 })).toBe('proven');
  });

  it('are kept once a name, the newest', () => {
    const a = makeProof({ kind: 'still', output: 4 }, values, 'board', at);
    const b = makeProof({ kind: 'moved', output: 4, actuator: 'elevator', first: 'up' }, values, 'board', at);
    expect(withProof([a], b)).toEqual([b]);
  });

  it('together are as good as the worst', () => {
    expect(together(['proven', 'stale', 'none'])).toBe('stale');
    expect(together(['proven', 'none'])).toBe('none');
    expect(together(['proven', 'proven'])).toBe('proven');
    expect(together([])).toBe('none');
  });
});

describe('the direction that opposes a tilt', () => {
  it('raises the aileron of the wing that has to come down', () => {
    // Right wing down: the right wing has to rise, so its aileron goes down and the left one up.
    expect(opposingDirection('right-aileron', 'roll-right')).toBe('down');
    expect(opposingDirection('left-aileron', 'roll-right')).toBe('up');
    expect(opposingDirection('elevator', 'nose-up')).toBe('down');
    expect(opposingDirection('rudder', 'nose-up')).toBeNull();
  });
});
