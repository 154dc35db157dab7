import { boardOf } from '../../board/boards.ts';
import { title } from '../../board/explain.ts';
import { powerFaults } from '../../board/power.ts';
import { feasible } from '../../board/solve.ts';
import { deviceNames, type Wishes } from '../../board/wishes.ts';
import { finding, type Rule } from '../rule.ts';

/** Wishes do not change while they are looked at with every edit of a setting. */
const known = new WeakMap<Wishes, Map<string, boolean>>();

function possible(target: string, wishes: Wishes): boolean {
  const of = known.get(wishes) ?? new Map<string, boolean>();
  known.set(wishes, of);
  const before = of.get(target);
  if (before !== undefined) return before;
  const board = boardOf(target);
  const now = !board || feasible(board, wishes);
  of.set(target, now);
  return now;
}

const collides: Rule = ({ wiring }) => {
  const board = wiring && boardOf(wiring.target);
  if (!board || possible(wiring.target, wiring.wishes)) return [];
  return [
    finding(
      'wiring-collides',
      'blocks',
      'wiring',
      `Not everything can be connected to ${title(board)}`,
      'Wiring says what collides, and what would help.',
      [],
    ),
  ];
};

const power: Rule = ({ wiring, airframe }) => {
  const board = wiring && boardOf(wiring.target);
  if (!board) return [];
  return powerFaults(board, wiring.wishes, deviceNames, airframe.battery.cells).map((f, i) =>
    finding(
      `power.${i + 1}`,
      f.severity,
      'wiring',
      f.severity === 'blocks' ? 'The power does not fit' : 'The power is short at times',
      f.why,
      [],
    ),
  );
};

export const wiringRules: readonly Rule[] = [collides, power];
