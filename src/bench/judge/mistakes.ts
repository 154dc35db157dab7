import { actuatorNames, isFitting, isMotor, kindNames } from '#core/airframe/actuators.ts';
import { type Airframe, actuatorsOf, isRotorcraft } from '#core/airframe/airframe.ts';
import { rotorBalanceWhy, unfitness } from '#core/airframe/fitness.ts';
import { performanceOf, rotorBalance, STATIC_MARGIN_LEAST } from '#core/airframe/performance.ts';
import type { BoardModel } from '#core/board/model.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { Cause } from '#core/formats/rehearsalResult.ts';
import { quat, setEuler } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import { roleMix } from '#core/mixer/roles.ts';
import type { Config } from '#firmware/config.ts';

/** Something about the craft that the settings do not match, or that no settings could fly. */
export interface Mistake {
  readonly cause: Cause;
  /** How sure it is to bring a craft down, 0 to 1. */
  readonly weight: number;
  readonly text: string;
  readonly settings: readonly string[];
}

/** Rotors that push more unlike each other than this tell in a flight. */
const UNLIKE = 1.06;
/** Turned by more than this a board flies what it does not see, rad. */
const MOUNT_OFF = 12 * DEG;

/**
 * What the settings say of the craft against how it is built, before anything is flown: outputs, directions, turning
 * of rotors, the board's mounting, the order of the channels, and whether the craft is in balance.
 */
export function mistakesOf(
  airframe: Airframe,
  board: BoardModel,
  config: Config,
  truth: BenchTruth,
): Mistake[] {
  return [
    ...kindMistake(airframe, config),
    ...outputMistakes(airframe, board, config, truth),
    ...spinMistakes(airframe, config),
    ...mountMistake(config, truth),
    ...channelMistakes(config, truth),
    ...balanceMistake(airframe),
    ...unfit(airframe),
  ];
}

function kindMistake(airframe: Airframe, config: Config): Mistake[] {
  if (config.kind === airframe.kind) return [];
  return [
    {
      cause: 'wiring',
      weight: 0.9,
      text: `The settings fly a ${kindNames[config.kind]}; the craft is a ${kindNames[airframe.kind]}.`,
      settings: ['craft.kind'],
    },
  ];
}

function outputMistakes(airframe: Airframe, board: BoardModel, config: Config, truth: BenchTruth): Mistake[] {
  const out: Mistake[] = [];
  for (const id of actuatorsOf(airframe)) {
    const pad = truth.pads.find((p) => p.actuator === id);
    const name = actuatorNames[id];
    if (isFitting(id)) continue;
    const flap = id.endsWith('flap');
    if (!pad) {
      if (!flap)
        out.push({ cause: 'wiring', weight: 0.8, text: `Nothing drives the ${name}.`, settings: [] });
      continue;
    }
    const set = config.outputs[pad.output - 1];
    if (!board.outputs.some((o) => o.output === pad.output)) {
      out.push({
        cause: 'wiring',
        weight: flap ? 0.3 : 1,
        text: `The ${name} is on output ${pad.output}, and ${board.name} has ${board.outputs.length} outputs.`,
        settings: [`out.${pad.output}.drives`],
      });
      continue;
    }
    const key = `out.${pad.output}`;
    if (!set || set.role !== id) {
      const believed =
        !set || set.role === 'nothing' ? 'sends nothing' : `drives the ${actuatorNames[set.role]}`;
      out.push({
        cause: 'wiring',
        weight: flap ? 0.3 : 0.95,
        text: `The ${name} is on output ${pad.output}, which by the settings ${believed}.`,
        settings: [`${key}.drives`],
      });
    } else if (!isMotor(id) && set.reversed !== pad.direction < 0) {
      out.push({
        cause: 'wiring',
        weight: flap ? 0.3 : 1,
        text: `The ${name} on output ${pad.output} answers the wrong way.`,
        settings: [`${key}.reversed`],
      });
    }
  }
  return out;
}

/** Rotors that turn against the way the mixer takes them to turn push the nose the wrong way. */
function spinMistakes(airframe: Airframe, config: Config): Mistake[] {
  if (!isRotorcraft(airframe)) return [];
  const wrong = airframe.motors.filter((m) => {
    const set = config.outputs.find((o) => o.role === m.id);
    const yaw = set ? set.mix.yaw : roleMix(m.id, airframe.kind).yaw;
    return yaw !== 0 && !m.tiltedBy && yaw > 0 !== (m.spin === 'anticlockwise');
  });
  if (wrong.length === 0) return [];
  const all = wrong.length === airframe.motors.length;
  return [
    {
      cause: 'wiring',
      weight: 0.9,
      text: all
        ? 'All rotors turn against the way the settings say.'
        : `The ${actuatorNames[wrong[0]!.id]} turns against the way the mixer takes it to turn.`,
      settings: all ? ['mix.spinFlipped'] : [],
    },
  ];
}

function mountMistake(config: Config, truth: BenchTruth): Mistake[] {
  const built = setEuler(
    quat(),
    truth.mount.rollDeg * DEG,
    truth.mount.pitchDeg * DEG,
    truth.mount.yawDeg * DEG,
  );
  const set = setEuler(quat(), config.mountRoll, config.mountPitch, config.mountYaw);
  const dot = Math.abs(built.reduce((sum, x, i) => sum + x * set[i]!, 0));
  const off = 2 * Math.acos(Math.min(1, dot));
  if (off < MOUNT_OFF) return [];
  return [
    {
      cause: 'mounting',
      weight: Math.min(1, off / (60 * DEG)),
      text: `The board sits turned by ${Math.round(off / DEG)}° from what the settings say.`,
      settings: ['mount.roll', 'mount.pitch', 'mount.yaw'],
    },
  ];
}

function channelMistakes(config: Config, truth: BenchTruth): Mistake[] {
  const wrong = (['roll', 'pitch', 'throttle', 'yaw'] as const).filter(
    (stick) => config.rx[stick] !== truth.channels[stick],
  );
  if (wrong.length === 0) return [];
  const stick = wrong[0]!;
  return [
    {
      cause: 'wiring',
      weight: 0.7,
      text: `The transmitter sends ${stick} on channel ${truth.channels[stick]}, the board looks for it on channel ${config.rx[stick]}.`,
      settings: wrong.map((s) => `rx.${s}.channel`),
    },
  ];
}

/** What no settings could mend, by what it is about and how surely it brings a craft down. The launch is judged as it goes. */
const unfitCauses: Readonly<Record<string, readonly [Cause, number]>> = {
  thrust: ['power', 0.8],
  propeller: ['power', 0.5],
  pack: ['power', 0.6],
  'hover-pack': ['power', 0.7],
  'hover-current': ['power', 0.7],
  trim: ['balance', 0.8],
  servo: ['gains', 0.75],
  lag: ['gains', 0.8],
  momentum: ['gains', 0.8],
};

function unfit(airframe: Airframe): Mistake[] {
  return unfitness(airframe).flatMap((u): Mistake[] => {
    const about = unfitCauses[u.id];
    if (!about || u.grade !== 'cannot') return [];
    return [{ cause: about[0], weight: about[1], text: `${u.title}. ${u.why}`, settings: [] }];
  });
}

function balanceMistake(airframe: Airframe): Mistake[] {
  if (isRotorcraft(airframe)) {
    const { hardest } = rotorBalance(airframe);
    if (hardest < UNLIKE) return [];
    const weight = Math.min(0.9, 0.4 + 2 * (hardest - 1));
    return [{ cause: 'balance', weight, text: rotorBalanceWhy(airframe), settings: [] }];
  }
  const { staticMargin, cgAftLimitM } = performanceOf(airframe);
  const millimetres = Math.round(1000 * Math.abs(airframe.cgAftM - cgAftLimitM));
  if (staticMargin < 0.5 * STATIC_MARGIN_LEAST)
    return [
      {
        cause: 'balance',
        weight: staticMargin < 0 ? 0.9 : 0.4,
        text: `The balance lies ${millimetres} mm behind the aft limit${staticMargin < 0 ? ' and behind the neutral point' : ''}: the nose does not come back by itself.`,
        settings: [],
      },
    ];
  if (staticMargin > 0.45)
    return [
      {
        cause: 'balance',
        weight: 0.5,
        text: `The balance lies far forward (${Math.round(100 * staticMargin)} % of the mean chord ahead of the neutral point): the elevator cannot hold the nose up when slow.`,
        settings: [],
      },
    ];
  return [];
}
