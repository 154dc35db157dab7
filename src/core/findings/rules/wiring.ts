import { type ActuatorId, actuatorNames, isMotor } from '../../airframe/actuators.ts';
import { layoutOf } from '../../board/boardRef.ts';
import { gnssLoadOf, i2cShare, MOST_SHARE } from '../../board/budget.ts';
import { deviceNames } from '../../board/deviceKinds.ts';
import { title } from '../../board/explain.ts';
import type { BoardModel } from '../../board/model.ts';
import { type PortUse, portFor, portKey, portsOf, portUses } from '../../board/portUses.ts';
import { powerFaults } from '../../board/power.ts';
import { type Assignment, solve } from '../../board/solve.ts';
import type { Wishes } from '../../board/wishes.ts';
import type { Values } from '../../settings/catalogue.ts';
import { settingOf } from '../../settings/typed.ts';
import { finding, need, outputsOf, type Rule } from '../rule.ts';

/** Wishes do not change while they are looked at with every edit of a setting. */
const known = new WeakMap<Wishes, WeakMap<BoardModel, Assignment | null>>();

/** Where everything goes on a board, or null where it cannot. */
function laidOut(board: BoardModel, wishes: Wishes): Assignment | null {
  const of = known.get(wishes) ?? new WeakMap<BoardModel, Assignment | null>();
  known.set(wishes, of);
  const before = of.get(board);
  if (before !== undefined) return before;
  const now = solve(board, wishes);
  of.set(board, now);
  return now;
}

const collides: Rule = ({ wiring, description }) => {
  const board = layoutOf(description);
  if (!board || !wiring || laidOut(board, wiring.wishes)) return [];
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

const power: Rule = ({ wiring, description, airframe }) => {
  const board = layoutOf(description);
  if (!board || !wiring) return [];
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

const drivenOutputs = (values: Values) =>
  outputsOf(values).flatMap(({ n, drives }) =>
    drives === 'nothing' ? [] : [{ output: n, drives: drives as ActuatorId }],
  );

const servoOnFrames: Rule = ({ values, description }) =>
  drivenOutputs(values).flatMap(({ output, drives }) => {
    const timer = description?.pads.find((p) => p.output === output)?.timer;
    const key = `timer.${timer}.sends`;
    if (timer === undefined || isMotor(drives) || (values[key] ?? 'pulses') === 'pulses') return [];
    return [
      finding(
        `servo-frames.${output}`,
        'blocks',
        'wiring',
        `Output ${output} sends frames to a servo`,
        `Its timer ${timer} sends digital frames; the servo of the ${actuatorNames[drives]} understands pulses only and would not move.`,
        [key, `out.${output}.drives`],
        { label: 'Send pulses on this timer', edits: { [key]: 'pulses' } },
      ),
    ];
  });

const noPort: Rule = ({ values, description }) => {
  if (!description) return [];
  need(values, portKey(1));
  return (['receiver', 'gnss'] as const).flatMap((use) => {
    if (portFor(description, values, use)) return [];
    const free = portsOf(description, values).find((p) => p.use === 'free');
    const name = portUses[use];
    return [
      finding(
        `no-port.${use}`,
        'blocks',
        'wiring',
        `No port is set for the ${name}`,
        `Whatever the ${name} says, nobody listens.`,
        description.ports.map((_, i) => portKey(i + 1)),
        free ? { label: `Set ${free.name} for it`, edits: { [portKey(free.n)]: use } } : undefined,
      ),
    ];
  });
};

const linkPort: Rule = ({ values, description }) => {
  const n = (description?.ports.findIndex((p) => p.link) ?? -1) + 1;
  if (n === 0 || (values[portKey(n)] ?? 'link') === 'link') return [];
  return [
    finding(
      'link-port',
      'blocks',
      'wiring',
      `Port ${n} carries this link`,
      'Without it nobody could speak to the board any more; the board refuses to give it away.',
      [portKey(n)],
      { label: 'Leave it to the link', edits: { [portKey(n)]: 'link' } },
    ),
  ];
};

const sharedPins: Rule = ({ values, description }) => {
  const board = layoutOf(description);
  if (!board) return [];
  return board.ports.flatMap((port, i) => {
    const use = (values[portKey(i + 1)] ?? 'free') as PortUse;
    const driven = drivenOutputs(values).filter((o) => port.sharesOutputs?.includes(o.output));
    if (use === 'free' || driven.length === 0) return [];
    const which = driven.map((o) => o.output).join(' and ');
    return [
      finding(
        `shared-pins.${i + 1}`,
        'blocks',
        'wiring',
        `Port ${i + 1} lies on the pins of output ${which}`,
        `It is set for the ${portUses[use]}, and the output drives the ${actuatorNames[driven[0]!.drives]}: one of the two would be dead.`,
        [portKey(i + 1), ...driven.map((o) => `out.${o.output}.drives`)],
        { label: `Leave port ${i + 1} free`, edits: { [portKey(i + 1)]: 'free' } },
      ),
    ];
  });
};

const gnssBudget: Rule = ({ values }) => {
  need(values, 'gnss.baud', 'gnss.rate');
  const { wanted, room } = gnssLoadOf(values);
  if (wanted <= MOST_SHARE * room) return [];
  const rate = ['10', '5', '1'].find(
    (r) => gnssLoadOf({ ...values, 'gnss.rate': r }).wanted <= MOST_SHARE * room,
  );
  const edits = rate ? { 'gnss.rate': rate } : { 'gnss.rate': '1', 'gnss.view': false };
  const baud = String(settingOf(values, 'gnss.baud'));
  return [
    finding(
      'gnss-budget',
      wanted > room ? 'blocks' : 'caution',
      'wiring',
      'The GNSS receiver is asked for more than its wire carries',
      `${settingOf(values, 'gnss.rate')} solutions a second${settingOf(values, 'gnss.view') === false ? '' : ' and the satellites in view'} are ${Math.round(wanted)} bytes a second; at ${baud} baud ${Math.round(room)} come through. Positions would arrive late, or in pieces.`,
      ['gnss.rate', 'gnss.view', 'gnss.baud'],
      { label: rate ? `Ask for ${rate} a second` : 'Ask for 1 a second, without the satellites', edits },
    ),
  ];
};

const busBudget: Rule = ({ wiring, description }) => {
  const board = layoutOf(description);
  const places = board && wiring && laidOut(board, wiring.wishes)?.buses;
  if (!places) return [];
  return board.buses
    .filter((b) => b.kind === 'i2c')
    .flatMap((bus) => {
      const here = places.filter((p) => p.bus === bus.name).map((p) => p.wish);
      const share = i2cShare(
        here,
        bus.onBoard.map((d) => d.device),
      );
      if (share <= MOST_SHARE) return [];
      return [
        finding(
          `bus-budget.${bus.name}`,
          share > 1 ? 'blocks' : 'caution',
          'wiring',
          `${bus.name} is too full`,
          `Its devices want ${Math.round(100 * share)} % of its time. Put one of them on another bus.`,
          [],
        ),
      ];
    });
};

export const wiringRules: readonly Rule[] = [
  collides,
  power,
  servoOnFrames,
  noPort,
  linkPort,
  sharedPins,
  gnssBudget,
  busBudget,
];
