import { type ActuatorId, isMotor } from '#core/airframe/airframe.ts';
import type { BoardDescription } from '#core/board/description.ts';
import type { EnergySettings } from '#core/control/energyLoop.ts';
import type { RateGains } from '#core/control/rateLoop.ts';
import type { LostLinkSettings } from '#core/lostlink/lostLink.ts';
import { DEG } from '#core/math/scalar.ts';
import type { OutputShape } from '#core/mixer/pulse.ts';
import { type RoleMix, roleMixes } from '#core/mixer/roles.ts';
import type { SwitchBand } from '#core/modes/modes.ts';
import type { ClimbRule } from '#core/navigation/returnPlan.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { OUTPUT_COUNT } from './catalogue/counts.ts';

export interface OutputConfig extends OutputShape {
  readonly role: ActuatorId | 'nothing';
  readonly isMotor: boolean;
  readonly mix: RoleMix;
  readonly speed: number;
  /** Steps of 1 ms between two pulses, by the rate of the output's timer. */
  readonly everySteps: number;
}

export type LostAction = 'nothing' | 'cut' | 'glide' | 'return';

/** Settings as the control code wants them: SI, radians, no look-up by name. Made once per change. */
export interface Config {
  readonly outputs: readonly OutputConfig[];
  readonly rx: {
    readonly roll: number;
    readonly pitch: number;
    readonly throttle: number;
    readonly yaw: number;
    readonly pitchSign: number;
    readonly low: number;
    readonly middle: number;
    readonly high: number;
    readonly deadband: number;
    readonly expo: number;
  };
  readonly arm: SwitchBand;
  readonly modeBands: { readonly rate: SwitchBand; readonly level: SwitchBand; readonly return: SwitchBand };
  readonly armTilt: number;
  readonly armNeedFix: boolean;
  readonly armSatellites: number;
  readonly armThrottle: number;
  readonly rollMax: number;
  readonly pitchMax: number;
  readonly yawMax: number;
  readonly roll: RateGains;
  readonly pitch: RateGains;
  readonly yaw: RateGains;
  readonly reference: number;
  readonly sumLimit: number;
  readonly gyroCutoff: number;
  readonly dCutoff: number;
  readonly levelTime: number;
  readonly bank: number;
  readonly up: number;
  readonly down: number;
  readonly idle: number;
  readonly ramp: number;
  readonly differential: number;
  readonly turnRudder: number;
  readonly aileronUp: number;
  readonly energy: EnergySettings;
  readonly navSpeed: number;
  readonly period: number;
  readonly damping: number;
  readonly loiterRadius: number;
  readonly loiterSense: number;
  readonly lostAction: LostAction;
  readonly lost: LostLinkSettings;
  readonly glideBank: number;
  readonly nearHome: number;
  readonly returnClimb: ClimbRule;
  readonly returnHeight: number;
  readonly returnSpeed: number;
  readonly arrival: 'circle' | 'circle-low';
  readonly arrivalHeight: number;
  readonly returnSatellites: number;
  readonly watch: number;
  readonly faster: number;
  readonly voltageScale: number;
  readonly batteryLowV: number;
  readonly batteryEmptyV: number;
  readonly batteryCapacityMah: number;
  readonly mountRoll: number;
  readonly mountPitch: number;
  readonly mountYaw: number;
}

/**
 * @param values complete and checked against the catalogue
 * @param pads which timer each output is on; an output not listed gets a pulse every step
 */
export function compileConfig(values: Values, pads: BoardDescription['pads'] = []): Config {
  const n = (key: string) => values[key] as number;
  const s = (key: string) => values[key] as string;
  const band = (key: string): SwitchBand => ({
    channel: n(`${key}.channel`),
    fromUs: n(`${key}.from`),
    toUs: n(`${key}.to`),
  });
  const gains = (axis: string): RateGains => ({
    feedForward: n(`rate.${axis}.forward`),
    proportional: n(`rate.${axis}.p`),
    integral: n(`rate.${axis}.i`),
    derivative: n(`rate.${axis}.d`),
  });
  const none: RoleMix = { roll: 0, pitch: 0, yaw: 0, throttle: 0 };
  const outputs: OutputConfig[] = [];
  for (let k = 1; k <= OUTPUT_COUNT; k++) {
    const role = s(`out.${k}.drives`) as OutputConfig['role'];
    outputs.push({
      role,
      isMotor: isMotor(role),
      mix: role === 'nothing' ? none : roleMixes[role],
      reversed: values[`out.${k}.reversed`] as boolean,
      lowUs: n(`out.${k}.low`),
      centreUs: n(`out.${k}.centre`),
      highUs: n(`out.${k}.high`),
      speed: n(`out.${k}.speed`),
      everySteps: stepsBetweenPulses(values, pads.find((p) => p.output === k)?.timer),
    });
  }
  return {
    outputs,
    rx: {
      roll: n('rx.roll.channel'),
      pitch: n('rx.pitch.channel'),
      throttle: n('rx.throttle.channel'),
      yaw: n('rx.yaw.channel'),
      pitchSign: values['rx.pitch.pullHigh'] ? 1 : -1,
      low: n('rx.low'),
      middle: n('rx.middle'),
      high: n('rx.high'),
      deadband: n('rx.deadband'),
      expo: n('rx.expo'),
    },
    arm: band('arm'),
    modeBands: { rate: band('mode.rate'), level: band('mode.level'), return: band('mode.return') },
    armTilt: n('arm.tilt') * DEG,
    armNeedFix: values['arm.needFix'] as boolean,
    armSatellites: n('arm.satellites'),
    armThrottle: n('arm.throttle'),
    rollMax: n('rate.roll.max') * DEG,
    pitchMax: n('rate.pitch.max') * DEG,
    yawMax: n('rate.yaw.max') * DEG,
    roll: gains('roll'),
    pitch: gains('pitch'),
    yaw: gains('yaw'),
    reference: n('rate.reference'),
    sumLimit: n('rate.sumLimit'),
    gyroCutoff: n('gyro.cutoff'),
    dCutoff: n('rate.dCutoff'),
    levelTime: n('level.time'),
    bank: n('level.bank') * DEG,
    up: n('level.up') * DEG,
    down: n('level.down') * DEG,
    idle: n('motor.idle'),
    ramp: n('motor.ramp'),
    differential: n('mix.differential'),
    turnRudder: n('mix.turnRudder'),
    aileronUp: n('mix.aileronUp'),
    energy: {
      climbMps: n('nav.climb'),
      sinkMps: n('nav.sink'),
      cruiseThrottle: n('motor.cruise'),
      maxThrottle: n('motor.max'),
      throttlePerClimb: n('motor.perClimb'),
      heightTime: n('nav.heightTime'),
      speedTime: n('nav.speedTime'),
      pitchUp: n('level.up') * DEG,
      pitchDown: n('level.down') * DEG,
      pitchTrim: n('level.pitch') * DEG,
      speedFloor: n('nav.speedFloor'),
    },
    navSpeed: n('nav.speed'),
    period: n('nav.period'),
    damping: n('nav.damping'),
    loiterRadius: n('loiter.radius'),
    loiterSense: s('loiter.sense') === 'clockwise' ? 1 : -1,
    lostAction: s('lost.action') as LostAction,
    lost: {
      noticeAfter: n('lost.notice'),
      guardFor: n('lost.guard'),
      steadyFor: n('lost.steady'),
      stickMove: n('lost.stick'),
    },
    glideBank: n('lost.glideBank') * DEG,
    nearHome: n('lost.near'),
    returnClimb: s('return.climb') as ClimbRule,
    returnHeight: n('return.height'),
    returnSpeed: n('return.speed'),
    arrival: s('return.arrival') as Config['arrival'],
    arrivalHeight: n('return.arrivalHeight'),
    returnSatellites: n('return.satellites'),
    watch: n('return.watch'),
    faster: n('return.faster'),
    voltageScale: n('battery.scale'),
    batteryLowV: n('battery.low') * n('battery.cells'),
    batteryEmptyV: n('battery.empty') * n('battery.cells'),
    batteryCapacityMah: n('battery.capacity'),
    mountRoll: n('mount.roll') * DEG,
    mountPitch: n('mount.pitch') * DEG,
    mountYaw: n('mount.yaw') * DEG,
  };
}

function stepsBetweenPulses(values: Values, timer: number | undefined): number {
  return timer === undefined ? 1 : Math.max(1, Math.round(1000 / Number(values[`timer.${timer}.rate`])));
}
