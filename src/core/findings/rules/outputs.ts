import { type ActuatorId, actuatorNames, isFitting, isMotor } from '../../airframe/actuators.ts';
import { actuatorsOf } from '../../airframe/airframe.ts';
import { authorityOf } from '../../mixer/authority.ts';
import { type FreeRow, freeRowsOf } from '../../mixer/freeRows.ts';
import { armsUnlike, editsFromArms } from '../../mixer/rotorArms.ts';
import { settingOf } from '../../settings/typed.ts';
import { type Finding, finding, need, num, outputsOf, type Rule } from '../rule.ts';

const outputTwice: Rule = ({ values }) => {
  const first = new Map<string, number>();
  const found: Finding[] = [];
  for (const { n, drives } of outputsOf(values)) {
    if (drives === 'nothing') continue;
    const other = first.get(drives);
    if (other === undefined) first.set(drives, n);
    else {
      const name = actuatorNames[drives as ActuatorId];
      found.push(
        finding(
          `output-twice.${drives}`,
          'caution',
          'which-moved',
          `Outputs ${other} and ${n} both drive the ${name}`,
          'One of the two is a leftover, or another surface gets these commands.',
          [`out.${other}.drives`, `out.${n}.drives`],
          {
            label: `Output ${n} drives nothing`,
            edits: { [`out.${n}.drives`]: 'nothing' },
          },
        ),
      );
    }
  }
  return found;
};

const withoutOutput: Rule = ({ values, airframe }) => {
  need(values, 'out.1.drives');
  const driven = new Set(outputsOf(values).map((o) => o.drives));
  return actuatorsOf(airframe)
    .filter((id) => !driven.has(id))
    .map((id) =>
      finding(
        `no-output.${id}`,
        'blocks',
        'which-moved',
        `Nothing drives the ${actuatorNames[id]}`,
        isMotor(id)
          ? 'The motor would not turn.'
          : isFitting(id)
            ? 'It would not move.'
            : 'The surface would not move.',
        outputsOf(values).map((o) => `out.${o.n}.drives`),
      ),
    );
};

/** An output that the board has no pad for moves nothing, whatever the settings say. */
const notOnBoard: Rule = ({ values, description }) => {
  if (!description) return [];
  const pads = description.pads.map((p) => p.output);
  const free = pads.filter((n) => (settingOf(values, `out.${n}.drives`) ?? 'nothing') === 'nothing');
  return outputsOf(values)
    .filter(({ n, drives }) => drives !== 'nothing' && !pads.includes(n))
    .map(({ n, drives }, i) => {
      const name = actuatorNames[drives as ActuatorId] ?? drives;
      const to = free[i];
      return finding(
        `output-not-there.${n}`,
        'blocks',
        'which-moved',
        `Output ${n} drives the ${name}, and ${description.board} has no output ${n}`,
        `It has ${pads.length} outputs, up to ${Math.max(0, ...pads)}: the ${name} would not move.`,
        [`out.${n}.drives`],
        to === undefined
          ? undefined
          : {
              label: `Drive it by output ${to}`,
              edits: { [`out.${n}.drives`]: 'nothing', [`out.${to}.drives`]: drives },
            },
      );
    });
};

const notFitted: Rule = ({ values, airframe }) => {
  const fitted = new Set<string>(['nothing', ...actuatorsOf(airframe)]);
  return outputsOf(values)
    .filter((o) => !fitted.has(o.drives))
    .map((o) =>
      finding(
        `not-fitted.${o.n}`,
        'caution',
        'which-moved',
        `Output ${o.n} drives the ${actuatorNames[o.drives as ActuatorId] ?? o.drives}, which this craft does not have`,
        'Either the craft is described wrongly or the output is.',
        [`out.${o.n}.drives`],
        {
          label: `Output ${o.n} drives nothing`,
          edits: { [`out.${o.n}.drives`]: 'nothing' },
        },
      ),
    );
};

const endpoints: Rule = ({ values }) =>
  outputsOf(values).flatMap(({ n, drives }) => {
    const [low, centre, high] = [
      num(values, `out.${n}.low`),
      num(values, `out.${n}.centre`),
      num(values, `out.${n}.high`),
    ];
    const keys = [`out.${n}.low`, `out.${n}.centre`, `out.${n}.high`];
    const usual = {
      label: 'Use 1000, 1500, 2000 µs',
      edits: { [keys[0]!]: 1000, [keys[1]!]: 1500, [keys[2]!]: 2000 },
    };
    if (low >= centre || centre >= high) {
      return [
        finding(
          `ends-inverted.${n}`,
          'blocks',
          'which-moved',
          `The ends of output ${n} are inverted`,
          `Low ${low}, centre ${centre} and high ${high} µs have to rise in this order; reverse the output instead.`,
          keys,
          usual,
        ),
      ];
    }
    if (drives !== 'nothing' && !isMotor(drives) && Math.min(high - centre, centre - low) < 150) {
      return [
        finding(
          `ends-narrow.${n}`,
          'caution',
          'which-moved',
          `Output ${n} hardly moves to one side`,
          `From its centre it has ${high - centre} µs up and ${centre - low} µs down. Move the pushrod rather than the centre.`,
          keys,
          usual,
        ),
      ];
    }
    return [];
  });

const servoRate: Rule = ({ values, description }) =>
  (description?.pads ?? []).flatMap((pad) => {
    const drives = settingOf(values, `out.${pad.output}.drives`);
    const rate = Number(settingOf(values, `timer.${pad.timer}.rate`));
    if (!drives || drives === 'nothing' || isMotor(drives) || !(rate > 100)) return [];
    return [
      finding(
        `servo-rate.${pad.output}`,
        'caution',
        'which-moved',
        `The servo on output ${pad.output} gets ${rate} pulses a second`,
        `Timer ${pad.timer} sets one rate for all its outputs. Many servos grow hot above 50 Hz.`,
        [`timer.${pad.timer}.rate`],
        {
          label: `Timer ${pad.timer} at 50 Hz`,
          edits: { [`timer.${pad.timer}.rate`]: '50' },
        },
      ),
    ];
  });

/** So much of an axis may be lost to rows of one's own before they are said to fight it. */
const FIGHTS_SHARE = 0.3;

/** Rows of a mix of one's own that work against the craft's usual mix. */
const rowsFight: Rule = ({ values, airframe }) => {
  const rows = freeRowsOf(values);
  if (rows.length === 0) return [];
  const usual = authorityOf(airframe, { ...values, ...withoutRows(rows) });
  const own = authorityOf(airframe, values);
  const switched = rows.some((r) => r.channel > 0) ? authorityOf(airframe, values, undefined, true) : own;
  return (['roll', 'pitch', 'yaw'] as const).flatMap((axis, i) => {
    const was = usual.turns[i]![i]!;
    const is = Math.min(own.turns[i]![i]!, switched.turns[i]![i]!);
    if (!(was > 0.5) || is > (1 - FIGHTS_SHARE) * was) return [];
    const lost = Math.round(100 * (1 - is / was));
    const when = is < own.turns[i]![i]! ? ' while their switch is on' : '';
    return [
      finding(
        `rows-fight.${axis}`,
        is <= 0 ? 'blocks' : 'caution',
        'mixing',
        is <= 0
          ? `Rows of your own turn ${axis} round${when}`
          : `Rows of your own take ${lost} % of ${axis} away${when}`,
        'Surfaces work against each other: what one does for a command another undoes. See which row takes it, and its sign.',
        rows.map((r) => `mix.row.${r.n}.weight`),
      ),
    ];
  });
};

const withoutRows = (rows: readonly FreeRow[]) =>
  Object.fromEntries(rows.map((r) => [`mix.row.${r.n}.weight`, 0]));

/** Rotors that go by arms which are not the craft's. */
const armsWrong: Rule = ({ values, airframe }) => {
  const wrong = armsUnlike(airframe, values);
  if (wrong.length === 0) return [];
  const names = wrong.map((m) => actuatorNames[m.id]).join(', ');
  return [
    finding(
      'arms-unlike',
      'caution',
      'mixing',
      `The board takes the ${names} to stand or turn elsewhere than the craft has ${wrong.length === 1 ? 'it' : 'them'}`,
      'Rotors go by their arms, and these are not the ones described at The craft: a command about one axis turns the craft about another as well.',
      ['mix.rotors'],
      { label: 'Take the arms of this craft', edits: editsFromArms(airframe, values) },
    ),
  ];
};

/** A row for an output that the board has no pad for. */
const rowNowhere: Rule = ({ values, description }) =>
  freeRowsOf(values).flatMap((r) =>
    !description || description.pads.some((p) => p.output === r.output)
      ? []
      : [
          finding(
            `row-nowhere.${r.n}`,
            'caution',
            'mixing',
            `Mix row ${r.n} is for output ${r.output}, which ${description.board} has not`,
            'It moves nothing.',
            [`mix.row.${r.n}.to`],
            { label: 'Take the row out', edits: { [`mix.row.${r.n}.to`]: 0 } },
          ),
        ],
  );

export const outputsRules: readonly Rule[] = [
  outputTwice,
  withoutOutput,
  notOnBoard,
  notFitted,
  endpoints,
  servoRate,
  rowsFight,
  armsWrong,
  rowNowhere,
];
