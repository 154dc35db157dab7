import { type ActuatorId, type Airframe, actuatorNames, actuatorsOf, isMotor } from '../airframe/airframe.ts';
import {
  performanceOf,
  STATIC_MARGIN_LEAST,
  STATIC_MARGIN_MOST,
  stallSpeed,
  turnRadius,
} from '../airframe/performance.ts';
import type { BoardDescription } from '../board/description.ts';
import { groundHeight, type Terrain } from '../flight/terrain.ts';
import { DEG } from '../math/scalar.ts';
import type { Catalogue, Values } from '../settings/catalogue.ts';
import type { Edits } from '../settings/draft.ts';
import { type LegId, type StationId, stationLeg } from './stations.ts';

export type Severity = 'blocks' | 'caution';

export interface Finding {
  /** The rule, and the thing where a rule can strike several times. */
  readonly id: string;
  readonly severity: Severity;
  readonly leg: LegId;
  readonly station: StationId;
  readonly title: string;
  readonly why: string;
  /** Settings it is about. */
  readonly keys: readonly string[];
  readonly fix?: { readonly label: string; readonly edits: Edits };
}

/** What the rules look at. Pure data; equal input gives equal findings. */
export interface FindingInput {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly catalogue: Catalogue;
  readonly description?: BoardDescription | undefined;
  /** Ground about home, where it is known, and home on it. */
  readonly ground?:
    | { readonly terrain: Terrain; readonly homeEastM: number; readonly homeNorthM: number }
    | undefined;
}

type Rule = (input: FindingInput) => Finding[];

const finding = (
  id: string,
  severity: Severity,
  station: StationId,
  title: string,
  why: string,
  keys: readonly string[],
  fix?: Finding['fix'],
): Finding => ({
  id,
  severity,
  leg: stationLeg(station),
  station,
  title,
  why,
  keys,
  ...(fix ? { fix } : {}),
});

const num = (values: Values, key: string) => values[key] as number;
const outputsOf = (values: Values) =>
  Object.keys(values).flatMap((k) => {
    const n = /^out\.(\d+)\.drives$/.exec(k)?.[1];
    return n ? [{ n: Number(n), drives: values[k] as string }] : [];
  });

/** Height a way home has to keep above the ground, m. */
export const GROUND_MARGIN_M = 30;
/** Ground this far from home counts for the way home, m. */
const GROUND_REACH_M = 6000;

const lostLinkAction: Rule = ({ values }) => {
  const action = values['lost.action'];
  const fix = { label: 'Return home when the link is lost', edits: { 'lost.action': 'return' } };
  if (action === 'nothing') {
    return [
      finding(
        'lost-nothing',
        'blocks',
        'lost-link',
        'Nothing happens when the link is lost',
        'The craft keeps its last commands and flies away.',
        ['lost.action'],
        fix,
      ),
    ];
  }
  if (action === 'cut') {
    return [
      finding(
        'lost-cut',
        'blocks',
        'lost-link',
        'The motors stop when the link is lost',
        'A short gap in the link far out drops the craft where it is.',
        ['lost.action'],
        fix,
      ),
    ];
  }
  return [];
};

const lostLinkDelay: Rule = ({ values }) => {
  const total = num(values, 'lost.notice') + num(values, 'lost.guard');
  if (total <= 15) return [];
  return [
    finding(
      'lost-late',
      'caution',
      'lost-link',
      `Help comes ${total.toFixed(0)} s after the link is lost`,
      'At cruise speed that is several hundred metres straight on.',
      ['lost.notice', 'lost.guard'],
      {
        label: 'Notice after 1 s, guard for 2 s',
        edits: { 'lost.notice': 1, 'lost.guard': 2 },
      },
    ),
  ];
};

const returnHeight: Rule = ({ values, ground }) => {
  const height = num(values, 'return.height');
  if (values['return.climb'] === 'keep-height') {
    return [
      finding(
        'return-keeps-height',
        'caution',
        'way-home',
        'The way home keeps whatever height it begins at',
        'A link lost low behind a hill leads straight into the hill.',
        ['return.climb'],
        {
          label: 'Keep at least the return height',
          edits: { 'return.climb': 'at-least' },
        },
      ),
    ];
  }
  if (height < GROUND_MARGIN_M) {
    return [
      finding(
        'return-low',
        'blocks',
        'way-home',
        `The return height of ${height} m is too close to the launch ground`,
        `Below ${GROUND_MARGIN_M} m a sink in wind or a tree ends the way home.`,
        ['return.height'],
        {
          label: 'Return at 60 m',
          edits: { 'return.height': 60 },
        },
      ),
    ];
  }
  if (!ground) return [];
  const top = highestAround(ground);
  const home = groundHeight(ground.terrain, ground.homeEastM, ground.homeNorthM);
  const need = Math.ceil((top.heightM - home + GROUND_MARGIN_M) / 5) * 5;
  if (height >= need - 5) return [];
  return [
    finding(
      'return-below-ridge',
      'blocks',
      'way-home',
      `The return height is ${(top.heightM - home - height).toFixed(0)} m below the highest ground in reach`,
      `${(top.distanceM / 1000).toFixed(1)} km from home the ground rises to ${top.heightM.toFixed(0)} m above the sea, ${(top.heightM - home).toFixed(0)} m above home. A straight way home can lead into it.`,
      ['return.height'],
      { label: `Return at ${need} m above home`, edits: { 'return.height': need } },
    ),
  ];
};

function highestAround(ground: NonNullable<FindingInput['ground']>): { heightM: number; distanceM: number } {
  const { terrain: t, homeEastM, homeNorthM } = ground;
  let heightM = 0;
  let distanceM = 0;
  for (let j = 0; j < t.rows; j++) {
    for (let i = 0; i < t.columns; i++) {
      const h = t.heights[j * t.columns + i]!;
      if (h <= heightM) continue;
      const d = Math.hypot(
        t.westM + i * t.cellM - homeEastM,
        t.southM + (t.rows - 1 - j) * t.cellM - homeNorthM,
      );
      if (d > GROUND_REACH_M) continue;
      heightM = h;
      distanceM = d;
    }
  }
  return { heightM, distanceM };
}

const loiterRadius: Rule = ({ values }) => {
  const least = turnRadius(num(values, 'return.speed'), num(values, 'level.bank') * DEG);
  const radius = num(values, 'loiter.radius');
  if (radius >= least) return [];
  const better = Math.ceil((1.5 * least) / 5) * 5;
  return [
    finding(
      'loiter-tight',
      'blocks',
      'way-home',
      `A circle of ${radius} m is tighter than the craft can turn`,
      `At ${num(values, 'return.speed')} m/s and ${num(values, 'level.bank')}° of bank the turn radius is ${least.toFixed(0)} m, before any wind.`,
      ['loiter.radius', 'level.bank', 'return.speed'],
      {
        label: `Circle with ${better} m`,
        edits: { 'loiter.radius': better },
      },
    ),
  ];
};

const returnSpeed: Rule = ({ values, airframe }) => {
  const least = 1.3 * stallSpeed(airframe);
  const speed = num(values, 'return.speed');
  if (speed >= least) return [];
  const better = Math.ceil(2 * 1.7 * stallSpeed(airframe)) / 2;
  return [
    finding(
      'return-slow',
      'blocks',
      'way-home',
      `The return speed of ${speed} m/s is too near the stall`,
      `This craft stalls at ${stallSpeed(airframe).toFixed(1)} m/s; the way home needs at least 1.3 times that, ${least.toFixed(1)} m/s.`,
      ['return.speed'],
      {
        label: `Return at ${better} m/s`,
        edits: { 'return.speed': better },
      },
    ),
  ];
};

const bankStall: Rule = ({ values, airframe }) => {
  const bank = num(values, 'level.bank') * DEG;
  const stall = stallSpeed(airframe) / Math.sqrt(Math.cos(bank));
  const slowest = Math.min(num(values, 'nav.speed'), num(values, 'return.speed'));
  if (slowest >= 1.1 * stall) return [];
  return [
    finding(
      'bank-stall',
      'blocks',
      'way-home',
      `At ${num(values, 'level.bank')}° of bank it stalls at ${stall.toFixed(1)} m/s`,
      `Navigation flies as slowly as ${slowest} m/s. A tight turn would stall the inner wing.`,
      ['level.bank', 'nav.speed', 'return.speed'],
      {
        label: 'Limit the bank to 40°',
        edits: { 'level.bank': 40 },
      },
    ),
  ];
};

const speedFloor: Rule = ({ values, airframe }) => {
  const least = 1.1 * stallSpeed(airframe);
  if (num(values, 'nav.speedFloor') >= least) return [];
  const better = Math.ceil(2 * 1.25 * stallSpeed(airframe)) / 2;
  return [
    finding(
      'floor-low',
      'caution',
      'way-home',
      'The least airspeed lies at the stall',
      `Stall protection begins at ${num(values, 'nav.speedFloor')} m/s; the craft stalls at ${stallSpeed(airframe).toFixed(1)} m/s.`,
      ['nav.speedFloor'],
      {
        label: `Protect below ${better} m/s`,
        edits: { 'nav.speedFloor': better },
      },
    ),
  ];
};

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
  const driven = new Set(outputsOf(values).map((o) => o.drives));
  return actuatorsOf(airframe)
    .filter((id) => !driven.has(id))
    .map((id) =>
      finding(
        `no-output.${id}`,
        'blocks',
        'which-moved',
        `Nothing drives the ${actuatorNames[id]}`,
        isMotor(id) ? 'The motor would not turn.' : 'The surface would not move.',
        outputsOf(values).map((o) => `out.${o.n}.drives`),
      ),
    );
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
        `Output ${o.n} drives a ${actuatorNames[o.drives as ActuatorId] ?? o.drives}, which this craft does not have`,
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
      label: 'Use 1000, 1500, 2000 us',
      edits: { [keys[0]!]: 1000, [keys[1]!]: 1500, [keys[2]!]: 2000 },
    };
    if (low >= centre || centre >= high) {
      return [
        finding(
          `ends-inverted.${n}`,
          'blocks',
          'which-moved',
          `The ends of output ${n} are inverted`,
          `Low ${low}, centre ${centre} and high ${high} us have to rise in this order; reverse the output instead.`,
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
          `From its centre it has ${high - centre} us up and ${centre - low} us down. Move the pushrod rather than the centre.`,
          keys,
          usual,
        ),
      ];
    }
    return [];
  });

const armingSwitch: Rule = ({ values }) => {
  if (num(values, 'arm.channel') !== 0) return [];
  return [
    finding(
      'arm-unset',
      'blocks',
      'switches',
      'No switch arms the craft',
      'The board has no arming channel, so the motors never turn.',
      ['arm.channel'],
      {
        label: 'Arm with channel 5',
        edits: { 'arm.channel': 5 },
      },
    ),
  ];
};

const stickModes = ['roll', 'pitch', 'throttle', 'yaw'] as const;

const switchOnStick: Rule = ({ values }) => {
  const sticks = new Map(stickModes.map((s) => [num(values, `rx.${s}.channel`), s]));
  return ['arm', 'mode.rate', 'mode.level', 'mode.return'].flatMap((id) => {
    const channel = num(values, `${id}.channel`);
    const stick = sticks.get(channel);
    if (channel === 0 || !stick) return [];
    const name = id === 'arm' ? 'Arming' : `The mode ${id.slice(5)}`;
    return [
      finding(
        `switch-on-stick.${id}`,
        'blocks',
        'switches',
        `${name} is on the ${stick} stick`,
        `Channel ${channel} carries the ${stick} stick; moving it would switch as well.`,
        [`${id}.channel`, `rx.${stick}.channel`],
      ),
    ];
  });
};

const armNextToReturn: Rule = ({ values }) => {
  if (num(values, 'arm.channel') === 0 || num(values, 'arm.channel') !== num(values, 'mode.return.channel'))
    return [];
  return [
    finding(
      'arm-and-return',
      'blocks',
      'switches',
      'Arming and Return home are on one switch',
      'Reaching for home could stop the motors.',
      ['arm.channel', 'mode.return.channel'],
      {
        label: 'Return home with channel 7',
        edits: { 'mode.return.channel': 7 },
      },
    ),
  ];
};

const levelSwitch: Rule = ({ values }) => {
  if (num(values, 'mode.level.channel') !== 0) return [];
  return [
    finding(
      'level-unset',
      'caution',
      'switches',
      'No switch asks for Level',
      'A craft that gets away from its pilot is caught by levelling it.',
      ['mode.level.channel'],
      {
        label: 'Level with the middle of channel 6',
        edits: { 'mode.level.channel': 6, 'mode.level.from': 1300, 'mode.level.to': 1700 },
      },
    ),
  ];
};

const returnSwitch: Rule = ({ values }) => {
  if (num(values, 'mode.return.channel') !== 0) return [];
  return [
    finding(
      'return-unset',
      'caution',
      'switches',
      'No switch asks for Return home',
      'Try the return in sight and on purpose before a lost link does it for you.',
      ['mode.return.channel'],
      {
        label: 'Return home with channel 7',
        edits: { 'mode.return.channel': 7 },
      },
    ),
  ];
};

const needFix: Rule = ({ values }) => {
  if (values['lost.action'] !== 'return' || values['arm.needFix'] === true) return [];
  return [
    finding(
      'return-without-home',
      'blocks',
      'lost-link',
      'It arms without a fix, so it may have no home',
      'Home is stored at arming. Without it the return glides down where it is.',
      ['arm.needFix'],
      {
        label: 'Arm only with a fix',
        edits: { 'arm.needFix': true },
      },
    ),
  ];
};

const servoRate: Rule = ({ values, description }) =>
  (description?.pads ?? []).flatMap((pad) => {
    const drives = values[`out.${pad.output}.drives`] as string | undefined;
    const rate = Number(values[`timer.${pad.timer}.rate`]);
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

const balance: Rule = ({ airframe }) => {
  const p = performanceOf(airframe);
  if (p.staticMargin < STATIC_MARGIN_LEAST) {
    const back = p.staticMargin < 0 ? 'behind' : 'close to';
    return [
      finding(
        'cg-aft',
        'blocks',
        'airframe',
        `The centre of gravity lies ${back} the neutral point`,
        `Static margin ${(100 * p.staticMargin).toFixed(0)} %; at least ${100 * STATIC_MARGIN_LEAST} % keeps the nose steady. Move weight forward by ${(1000 * (airframe.cgAftM - p.cgAftLimitM)).toFixed(0)} mm.`,
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

const boardRules: Rule = ({ values, catalogue }) =>
  // Ends of outputs have a rule of their own above, which says it better.
  catalogue
    .check(values)
    .filter((r) => !r.key.startsWith('out.'))
    .map((r) =>
      finding(
        `refused.${r.key}`,
        'blocks',
        'starting-values',
        `The board would refuse ${catalogue.entry(r.key)?.label ?? r.key}`,
        r.why,
        [r.key],
      ),
    );

export const rules: readonly Rule[] = [
  lostLinkAction,
  lostLinkDelay,
  needFix,
  returnHeight,
  loiterRadius,
  returnSpeed,
  bankStall,
  speedFloor,
  outputTwice,
  withoutOutput,
  notFitted,
  endpoints,
  servoRate,
  armingSwitch,
  switchOnStick,
  armNextToReturn,
  levelSwitch,
  returnSwitch,
  batteryCells,
  balance,
  boardRules,
]; // prettier-ignore

/** All findings, those that block flight first. */
export function findAll(input: FindingInput): Finding[] {
  const found = rules.flatMap((rule) => rule(input));
  return [...found.filter((f) => f.severity === 'blocks'), ...found.filter((f) => f.severity !== 'blocks')];
}
