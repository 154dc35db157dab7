import { describe, expect, it } from 'vitest';
import { flock } from '../airframe/library.ts';
import { notCommandedAgainst, opposingDirection, tiltsOf } from './surfaceAnswers.ts';

const craft = (name: string) => flock.find((a) => a.name.startsWith(name))!;

describe('what opposes a tilt or a turn', () => {
  it('is the rudder to the left against a turn to the right, and of a V-tail both halves, each its way', () => {
    expect(opposingDirection('rudder', 'yaw-right')).toBe('left');
    expect(opposingDirection('rudder', 'yaw-left')).toBe('right');
    expect(opposingDirection('left-ruddervator', 'yaw-right')).toBe('down');
    expect(opposingDirection('right-ruddervator', 'yaw-right')).toBe('up');
    expect(opposingDirection('left-ruddervator', 'nose-up')).toBe('down');
    expect(opposingDirection('left-aileron', 'yaw-right')).toBeNull();
    expect(opposingDirection('motor', 'yaw-right')).toBeNull();
  });

  it('is asked of what the craft has: no turn of a wing without a rudder, all of rotors', () => {
    expect(tiltsOf(craft('Turnstone'))).toHaveLength(6);
    expect(tiltsOf(craft('Sandpiper'))).toHaveLength(6);
    expect(tiltsOf(craft('Dunlin'))).toEqual(['roll-right', 'roll-left', 'nose-up', 'nose-down']);
    expect(tiltsOf(craft('Avocet'))).toHaveLength(6);
    expect(tiltsOf(craft('Ruff'))).toHaveLength(6);
  });

  it('has to be commanded by the board: what stands still or goes along is named', () => {
    const ids = ['left-aileron', 'right-aileron'] as const;
    expect(notCommandedAgainst({ 'left-aileron': -0.3, 'right-aileron': 0.3 }, ids, 'roll-right')).toEqual(
      [],
    );
    expect(notCommandedAgainst({ 'left-aileron': 0.3, 'right-aileron': 0.3 }, ids, 'roll-right')).toEqual([
      'left-aileron',
    ]);
    expect(notCommandedAgainst({}, ids, 'roll-left')).toEqual([...ids]);
  });
});
