import { isMotor, kindNames, kinds } from '../../airframe/actuators.ts';
import { isRotorcraft } from '../../airframe/airframe.ts';
import { unfitness } from '../../airframe/fitness.ts';
import { performanceOf, STATIC_MARGIN_LEAST, STATIC_MARGIN_MOST } from '../../airframe/performance.ts';
import { settingOf } from '../../settings/typed.ts';
import { formatQuantity as q } from '../../units/units.ts';
import { finding, num, outputsOf, type Rule } from '../rule.ts';

const batteryCells: Rule = ({ values, airframe }) => {
  const cells = num(values, 'battery.cells');
  if (cells === airframe.battery.cells) return [];
  return [
    finding(
      'cells',
      'caution',
      'starting-values',
      `The board expects ${cells} cells, the craft has ${airframe.battery.cells}`,
      'Low-voltage warnings come far too early or never.',
      ['battery.cells'],
      {
        label: `Expect ${airframe.battery.cells} cells`,
        edits: { 'battery.cells': airframe.battery.cells },
      },
    ),
  ];
};

const balance: Rule = ({ airframe, units }) => {
  if (isRotorcraft(airframe)) return [];
  const p = performanceOf(airframe);
  if (p.staticMargin < STATIC_MARGIN_LEAST) {
    const back = p.staticMargin < 0 ? 'behind' : 'close to';
    return [
      finding(
        'cg-aft',
        'blocks',
        'airframe',
        `The centre of gravity lies ${back} the neutral point`,
        `Static margin ${(100 * p.staticMargin).toFixed(0)} %; at least ${100 * STATIC_MARGIN_LEAST} % keeps the nose steady. Move weight forward by ${q(1000 * (airframe.cgAftM - p.cgAftLimitM), 'mm', units)}.`,
        [],
      ),
    ];
  }
  if (p.staticMargin > STATIC_MARGIN_MOST + 0.02) {
    return [
      finding(
        'cg-forward',
        'caution',
        'airframe',
        'The craft is nose-heavy',
        `Static margin ${(100 * p.staticMargin).toFixed(0)} %; above ${100 * STATIC_MARGIN_MOST} % the elevator runs out when slow.`,
        [],
      ),
    ];
  }
  return [];
};

const kindOfCraft: Rule = ({ values, airframe }) => {
  const set = kinds.find((k) => k === settingOf(values, 'craft.kind'));
  if (set === undefined || set === airframe.kind) return [];
  return [
    finding(
      'craft-kind',
      'blocks',
      'starting-values',
      `The board flies a ${kindNames[set]}; the craft is a ${kindNames[airframe.kind]}`,
      'Commands would go to motors and surfaces that answer otherwise.',
      ['craft.kind'],
      { label: `Fly a ${kindNames[airframe.kind]}`, edits: { 'craft.kind': airframe.kind } },
    ),
  ];
};

const heading: Rule = ({ values, airframe }) => {
  if (!isRotorcraft(airframe) || settingOf(values, 'compass.fitted') !== false) return [];
  return [
    finding(
      'no-heading',
      'blocks',
      'lost-link',
      'Without a compass this craft does not know its heading',
      'It can neither hold a place nor return home; it would come down where it is.',
      ['compass.fitted'],
      { label: 'A compass is fitted', edits: { 'compass.fitted': true } },
    ),
  ];
};

const slowRotors: Rule = ({ values, airframe, description }) => {
  if (!isRotorcraft(airframe)) return [];
  const motors = new Set(outputsOf(values).flatMap((o) => (isMotor(o.drives) ? [o.n] : [])));
  const slow = new Set(
    (description?.pads ?? [])
      .filter(
        (p) =>
          motors.has(p.output) &&
          (settingOf(values, `timer.${p.timer}.sends`) ?? 'pulses') === 'pulses' &&
          Number(settingOf(values, `timer.${p.timer}.rate`)) < 200,
      )
      .map((p) => p.timer),
  );
  if (slow.size === 0) return [];
  const keys = [...slow].map((t) => `timer.${t}.rate`);
  return [
    finding(
      'slow-rotors',
      'blocks',
      'which-moved',
      `Rotors get their pulses only ${values[keys[0]!]} times a second`,
      'A craft that hovers needs an answer within a few milliseconds.',
      keys,
      { label: 'Motors at 400 Hz', edits: Object.fromEntries(keys.map((k) => [k, '400'])) },
    ),
  ];
};

const fitness: Rule = ({ airframe }) =>
  unfitness(airframe).map((u) =>
    finding(`unfit.${u.id}`, u.grade === 'cannot' ? 'blocks' : 'caution', 'airframe', u.title, u.why, []),
  );

export const craftRules: readonly Rule[] = [fitness, batteryCells, balance, kindOfCraft, heading, slowRotors];
