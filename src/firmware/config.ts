import { type ActuatorId, isMotor, isRotorKind, type Kind } from '#core/airframe/actuators.ts';
import type { BoardDescription } from '#core/board/description.ts';
import type { LevelTrim } from '#core/calibration/levelTrim.ts';
import type { AccelCalibration } from '#core/calibration/sixPoses.ts';
import { gainsOf, inSet } from '#core/control/controlSet.ts';
import { type DialSettings, dialsOf } from '#core/control/dials.ts';
import { type EnergySettings, energySettingsOf } from '#core/control/energyLoop.ts';
import { type GainLaw, gainLawOf } from '#core/control/gainLaw.ts';
import { type FilterSet, filtersOf } from '#core/control/gyroFilter.ts';
import { type HoverSettings, hoverSettingsOf } from '#core/control/hoverLoops.ts';
import { type LoopShape, loopShapeOf, type RateGains } from '#core/control/rateLoop.ts';
import type { PositionSettings } from '#core/estimation/position.ts';
import type { LostLinkSettings } from '#core/lostlink/lostLink.ts';
import { DEG } from '#core/math/scalar.ts';
import { type FreeRow, freeRowsOf, type RowSource, rowSources } from '#core/mixer/freeRows.ts';
import type { OutputShape } from '#core/mixer/pulse.ts';
import { sendsFrames, stepsBetweenPulses } from '#core/mixer/pulseTiming.ts';
import { type RoleMix, roleMix, sharesOf } from '#core/mixer/roles.ts';
import { ownRotorMixes } from '#core/mixer/rotorArms.ts';
import { type SwitchBand, type SwitchedMode, switchedModes } from '#core/modes/modes.ts';
import { type StickShape, stickShapeOf } from '#core/modes/stickShape.ts';
import type { ClimbRule } from '#core/navigation/returnPlan.ts';
import { type OverlayConfig, overlayConfigOf } from '#core/overlay/config.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { type NumberKey, settingsOf } from '#core/settings/typed.ts';
import type { FindMe } from '#core/signals/signals.ts';
import { ROOM_KEY, rateKey, toldSensors } from '#core/toldBack/sensors.ts';
import { type VideoBand, videoMhz, videoPowersMw } from '#core/video/transmitter.ts';
import { type BatteryConfig, batteryConfigOf } from './batteryWatch.ts';
import { CONTROL_SETS, OUTPUT_COUNT } from './catalogue/counts.ts';

interface OutputConfig extends OutputShape {
  readonly role: ActuatorId | 'nothing';
  readonly isMotor: boolean;
  readonly mix: RoleMix;
  readonly speed: number;
  /** Steps of 1 ms between two pulses, by the rate of the output's timer. */
  readonly everySteps: number;
  /** Digital frames instead of pulses; servos do not understand them. */
  readonly frames: boolean;
}

type LostAction = 'nothing' | 'cut' | 'glide' | 'return';
type Protocol = 'crsf' | 'sbus' | 'pulse-train';

/** Rates, gains and limits that change with the control set. */
export interface ControlSet {
  readonly rollMax: number;
  readonly pitchMax: number;
  readonly yawMax: number;
  readonly roll: RateGains;
  readonly pitch: RateGains;
  readonly yaw: RateGains;
  readonly levelTime: number;
  readonly bank: number;
  readonly up: number;
  readonly down: number;
}

/** Settings as the control code wants them: SI, radians, no look-up by name. Made once per change. */
/** A row of a mix of one's own: as it is set, and its source by number. */
interface MixRowConfig extends FreeRow {
  readonly source: RowSource;
  /** Place of its source among `rowSources`. */
  readonly from: number;
  readonly condition: SwitchBand;
}

export interface Config {
  readonly kind: Kind;
  readonly rotorcraft: boolean;
  readonly outputs: readonly OutputConfig[];
  /** Rows of a mix of one's own, of outputs that this board has. */
  readonly mixRows: readonly MixRowConfig[];
  readonly rx: {
    readonly protocol: Protocol;
    readonly lossBelow: number;
    /** Channel of the link's quality, 0 for none; its pulses for none and for all, us. */
    readonly qualityChannel: number;
    readonly qualityNone: number;
    readonly qualityFull: number;
    readonly roll: number;
    readonly pitch: number;
    readonly throttle: number;
    readonly yaw: number;
    readonly pitchSign: number;
    /** Ends and middle of each stick, us; the throttle has no middle. */
    readonly shapes: Readonly<Record<'roll' | 'pitch' | 'yaw', StickShape>>;
    readonly throttleLow: number;
    readonly throttleHigh: number;
  };
  readonly arm: SwitchBand;
  readonly modeBands: Readonly<Record<SwitchedMode, SwitchBand>>;
  /** A rotorcraft on its back arms to turn itself over, by frames that turn its rotors backwards. */
  readonly flip: { readonly band: SwitchBand; readonly power: number };
  readonly flapChannel: number;
  readonly setChannel: number;
  readonly armTilt: number;
  readonly armNeedFix: boolean;
  readonly armNeedCompass: boolean;
  readonly armNeedStill: boolean;
  readonly armSatellites: number;
  readonly armThrottle: number;
  readonly homeOnce: boolean;
  readonly sets: readonly ControlSet[];
  readonly setActive: number;
  readonly reference: number;
  readonly gainLaw: GainLaw;
  readonly dials: readonly DialSettings[];
  readonly tune: {
    readonly channel: number;
    readonly axes: 'both' | 'roll' | 'pitch';
    readonly share: number;
    readonly flies: boolean;
    /** A servo from its middle to an end, s. */
    readonly servoS: number;
  };
  readonly loopShape: LoopShape;
  readonly filters: FilterSet;
  readonly horizonBlend: number;
  readonly idle: number;
  readonly ramp: number;
  readonly differential: number;
  readonly turnRudder: number;
  readonly aileronUp: number;
  readonly flapTime: number;
  readonly flapPitch: number;
  readonly energy: EnergySettings;
  readonly hover: HoverSettings & {
    readonly speed: number;
    readonly land: number;
    readonly yawRate: number;
    readonly drag: number;
  };
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
  readonly returnAbove: 'home' | 'ground';
  readonly returnSpeed: number;
  readonly arrival: 'circle' | 'circle-low' | 'land';
  readonly arrivalHeight: number;
  readonly returnSatellites: number;
  readonly fewFor: number;
  readonly watch: number;
  readonly faster: number;
  readonly lower: number;
  readonly floor: number;
  readonly giveUp: number;
  readonly launch: {
    readonly accel: number;
    readonly delay: number;
    readonly throttle: number;
    readonly pitch: number;
    readonly time: number;
    readonly height: number;
  };
  readonly land: {
    readonly speed: number;
    /** Along a strip of this bearing, rad, instead of against the wind. */
    readonly alongStrip: boolean;
    readonly strip: number;
    readonly slope: number;
    readonly height: number;
    readonly flare: number;
    readonly pitch: number;
    readonly disarm: number;
  };
  readonly fence: {
    readonly radius: number;
    readonly top: number;
    readonly action: 'say' | 'loiter' | 'return';
  };
  readonly position: PositionSettings;
  readonly voltageScale: number;
  readonly currentScale: number;
  readonly currentOffset: number;
  readonly battery: BatteryConfig;
  readonly imu: 'first' | 'second' | 'both';
  /** Of the first chip and the second, each in its own axes. */
  readonly accels: readonly [AccelCalibration, AccelCalibration];
  /** How the two chips are turned on the board, seen from above, rad. */
  readonly chipYaws: readonly [number, number];
  readonly compass: {
    readonly fitted: boolean;
    /** uT, the compass's own axes: taken off first. */
    readonly offset: readonly [number, number, number];
    readonly matrix: readonly (readonly [number, number, number])[];
    /** uT per ampere. */
    readonly perAmp: readonly [number, number, number];
    /** How it is turned against the board. */
    readonly roll: number;
    readonly pitch: number;
    readonly yaw: number;
    readonly declination: number;
    readonly strength: number;
  };
  readonly pitot: { readonly fitted: boolean; readonly scale: number; readonly zero: number };
  /** Clock of the bus for sensors outside the board. */
  readonly busKhz: number;
  readonly flow: { readonly fitted: boolean; readonly scale: number };
  readonly range: {
    readonly fitted: boolean;
    readonly most: number;
    readonly offset: number;
    readonly scale: number;
  };
  readonly overlay: OverlayConfig;
  readonly lights: { readonly lamps: number; readonly brightness: number };
  readonly video: {
    readonly mhz: number;
    readonly mw: number;
    readonly leastMw: number;
    readonly quiet: boolean;
  };
  readonly buzzer: boolean;
  /** The sticks change a few settings on the ground. */
  readonly gestures: boolean;
  readonly findMe: FindMe & { readonly channel: number; readonly motors: boolean };
  /** What is told over the link's way back: bytes a second that there is room for, and how often each, in the order of `toldSensors`. */
  readonly tell: { readonly room: number; readonly hz: readonly number[] };
  readonly logEvery: number;
  readonly logLoops: boolean;
  readonly logGyro: boolean;
  /** Board from the centre of gravity: forward, right, down, m. */
  readonly mountAt: readonly [number, number, number];
  readonly mountRoll: number;
  readonly mountPitch: number;
  readonly mountYaw: number;
  /** In front of the mounting: the attitude that counts as level. */
  readonly level: LevelTrim;
}

/**
 * @param values complete and checked against the catalogue
 * @param pads which timer each output is on; an output not listed gets a pulse every step
 * @param chipYawsDeg how the gyro chips are turned on the board
 */
export function compileConfig(
  values: Values,
  pads: BoardDescription['pads'] = [],
  chipYawsDeg: readonly [number, number] = [0, 0],
): Config {
  const { number: n, choice: s, flag } = settingsOf(values);
  const rad = (key: NumberKey) => n(key) * DEG;
  const band = (key: 'arm' | `mode.${SwitchedMode}`): SwitchBand => ({
    channel: n(`${key}.channel`),
    fromUs: n(`${key}.from`),
    toUs: n(`${key}.to`),
  });
  const kind: Kind = s('craft.kind');
  const shares = sharesOf(values);
  const none: RoleMix = { roll: 0, pitch: 0, yaw: 0, throttle: 0, flap: 0 };
  const outputs: OutputConfig[] = [];
  const drivenBy = (k: number): OutputConfig['role'] =>
    // An output that this board has no pad for drives nothing.
    pads.length === 0 || pads.some((p) => p.output === k) ? s(`out.${k}.drives`) : 'nothing';
  const numbers = Array.from({ length: OUTPUT_COUNT }, (_, i) => i + 1);
  const rotors = isRotorKind(kind)
    ? ownRotorMixes(
        values,
        numbers.filter((k) => isMotor(drivenBy(k))),
      )
    : null;
  for (const k of numbers) {
    const pad = pads.find((p) => p.output === k);
    const role = drivenBy(k);
    outputs.push({
      role,
      isMotor: isMotor(role),
      mix: rotors?.get(k) ?? (role === 'nothing' ? none : roleMix(role, kind, shares)),
      reversed: flag(`out.${k}.reversed`),
      lowUs: n(`out.${k}.low`),
      centreUs: n(`out.${k}.centre`),
      highUs: n(`out.${k}.high`),
      speed: n(`out.${k}.speed`),
      everySteps: stepsBetweenPulses(values, pad?.timer),
      frames: sendsFrames(values, pad?.timer),
    });
  }
  const accelOf = (chip: 1 | 2): AccelCalibration => ({
    offset: [n(`accel.${chip}.offset.x`), n(`accel.${chip}.offset.y`), n(`accel.${chip}.offset.z`)],
    scale: [n(`accel.${chip}.scale.x`), n(`accel.${chip}.scale.y`), n(`accel.${chip}.scale.z`)],
  });
  const sets = Array.from({ length: CONTROL_SETS }, (_, i) => controlSet(values, i + 1));
  const setActive = Number(s('set.active')) - 1;
  const rate = Number(s('log.rate'));
  return {
    kind,
    rotorcraft: isRotorKind(kind),
    outputs,
    mixRows: freeRowsOf(values)
      .filter((r) => pads.length === 0 || pads.some((p) => p.output === r.output))
      .map((r) => ({
        ...r,
        from: rowSources.indexOf(r.source),
        condition: { channel: r.channel, fromUs: r.fromUs, toUs: r.toUs },
      })),
    rx: {
      protocol: s('rx.protocol'),
      lossBelow: n('rx.lossBelow'),
      qualityChannel: n('rx.quality.channel'),
      qualityNone: n('rx.quality.none'),
      qualityFull: n('rx.quality.full'),
      roll: n('rx.roll.channel'),
      pitch: n('rx.pitch.channel'),
      throttle: n('rx.throttle.channel'),
      yaw: n('rx.yaw.channel'),
      pitchSign: flag('rx.pitch.pullHigh') ? 1 : -1,
      shapes: {
        roll: stickShapeOf(values, 'roll'),
        pitch: stickShapeOf(values, 'pitch'),
        yaw: stickShapeOf(values, 'yaw'),
      },
      throttleLow: n('rx.throttle.low'),
      throttleHigh: n('rx.throttle.high'),
    },
    arm: band('arm'),
    modeBands: Object.fromEntries(switchedModes.map((m) => [m, band(`mode.${m}`)])) as Config['modeBands'],
    flip: {
      band: { channel: n('flip.channel'), fromUs: n('flip.from'), toUs: n('flip.to') },
      power: n('flip.power'),
    },
    flapChannel: n('flap.channel'),
    setChannel: n('set.channel'),
    armTilt: rad('arm.tilt'),
    armNeedFix: flag('arm.needFix'),
    armNeedCompass: flag('arm.needCompass'),
    armNeedStill: flag('arm.needStill'),
    armSatellites: n('arm.satellites'),
    armThrottle: n('arm.throttle'),
    homeOnce: s('home.rule') === 'first-arming',
    sets,
    setActive,
    reference: n('rate.reference'),
    gainLaw: gainLawOf(values, isRotorKind(kind)),
    dials: dialsOf(values),
    tune: {
      channel: n('tune.channel'),
      axes: s('tune.axes'),
      share: n('tune.share'),
      flies: flag('tune.flies'),
      servoS: n('tune.servo'),
    },
    loopShape: loopShapeOf(values),
    filters: filtersOf(values),
    horizonBlend: n('horizon.blend'),
    idle: n('motor.idle'),
    ramp: n('motor.ramp'),
    differential: n('mix.differential'),
    turnRudder: n('mix.turnRudder'),
    aileronUp: n('mix.aileronUp'),
    flapTime: n('flap.time'),
    flapPitch: n('flap.pitch'),
    energy: energySettingsOf(values),
    hover: {
      ...hoverSettingsOf(values),
      speed: n('hover.speed'),
      land: n('hover.land'),
      yawRate: rad('hover.yawRate'),
      drag: n('hover.drag'),
    },
    navSpeed: n('nav.speed'),
    period: n('nav.period'),
    damping: n('nav.damping'),
    loiterRadius: n('loiter.radius'),
    loiterSense: s('loiter.sense') === 'clockwise' ? 1 : -1,
    lostAction: s('lost.action'),
    lost: {
      noticeAfter: n('lost.notice'),
      guardFor: n('lost.guard'),
      steadyFor: n('lost.steady'),
      stickMove: n('lost.stick'),
    },
    glideBank: rad('lost.glideBank'),
    nearHome: n('lost.near'),
    returnClimb: s('return.climb'),
    returnHeight: n('return.height'),
    returnAbove: s('return.above'),
    returnSpeed: n('return.speed'),
    arrival: s('return.arrival'),
    arrivalHeight: n('return.arrivalHeight'),
    returnSatellites: n('return.satellites'),
    fewFor: n('return.fewFor'),
    watch: n('return.watch'),
    faster: n('return.faster'),
    lower: n('return.lower'),
    floor: n('return.floor'),
    giveUp: n('return.timeout'),
    launch: {
      accel: n('launch.accel'),
      delay: n('launch.delay'),
      throttle: n('launch.throttle'),
      pitch: rad('launch.pitch'),
      time: n('launch.time'),
      height: n('launch.height'),
    },
    land: {
      speed: n('land.speed'),
      alongStrip: s('land.along') === 'strip',
      strip: rad('land.strip'),
      slope: Math.tan(rad('land.slope')),
      height: n('land.height'),
      flare: n('land.flare'),
      pitch: rad('land.pitch'),
      disarm: n('land.disarm'),
    },
    fence: { radius: n('fence.radius'), top: n('fence.top'), action: s('fence.action') },
    position: { blindFor: n('lost.blind'), jumpM: n('gnss.jump') },
    voltageScale: n('battery.scale'),
    currentScale: n('battery.currentScale'),
    currentOffset: n('battery.currentOffset'),
    battery: batteryConfigOf(values),
    imu: s('imu.use'),
    chipYaws: [chipYawsDeg[0] * DEG, chipYawsDeg[1] * DEG],
    accels: [accelOf(1), accelOf(2)],
    compass: {
      fitted: flag('compass.fitted'),
      offset: [n('compass.x'), n('compass.y'), n('compass.z')],
      matrix: [
        [n('compass.xx'), n('compass.xy'), n('compass.xz')],
        [n('compass.xy'), n('compass.yy'), n('compass.yz')],
        [n('compass.xz'), n('compass.yz'), n('compass.zz')],
      ],
      perAmp: [n('compass.perAmp.x'), n('compass.perAmp.y'), n('compass.perAmp.z')],
      roll: rad('compass.roll'),
      pitch: rad('compass.pitch'),
      yaw: rad('compass.yaw'),
      declination: rad('compass.declination'),
      strength: n('compass.strength'),
    },
    pitot: {
      fitted: flag('pitot.fitted') && !isRotorKind(kind),
      scale: n('pitot.scale'),
      zero: n('pitot.zero'),
    },
    busKhz: Number(s('bus.speed')),
    flow: { fitted: flag('flow.fitted') && isRotorKind(kind), scale: n('flow.scale') },
    range: {
      fitted: flag('range.fitted'),
      most: n('range.most'),
      offset: n('range.offset'),
      scale: n('range.scale'),
    },
    overlay: overlayConfigOf(values),
    lights: { lamps: n('light.output') > 0 ? n('light.lamps') : 0, brightness: n('light.brightness') },
    video: {
      mhz: videoMhz(s('video.band') as VideoBand, n('video.channel')),
      mw: Number(s('video.power')),
      leastMw: videoPowersMw[0],
      quiet: values['video.quiet'] === true,
    },
    buzzer: values['sound.buzzer'] === true,
    gestures: values['hand.gestures'] === true,
    findMe: {
      channel: n('find.channel'),
      afterDownS: n('find.afterDown'),
      afterLostS: n('find.afterLost'),
      motors: values['find.motors'] === true,
    },
    tell: { room: n(ROOM_KEY), hz: toldSensors.map((s) => n(rateKey(s.id))) },
    logEvery: rate > 0 ? 1 / rate : 0,
    logLoops: flag('log.loops'),
    logGyro: flag('log.gyro'),
    mountAt: [n('mount.forward') / 1000, n('mount.right') / 1000, -n('mount.up') / 1000],
    mountRoll: rad('mount.roll'),
    mountPitch: rad('mount.pitch'),
    mountYaw: rad('mount.yaw'),
    level: { rollDeg: n('mount.levelRoll'), pitchDeg: n('mount.levelPitch') },
  };
}

/** @param set 1 to 3 */
function controlSet(values: Values, set: number): ControlSet {
  const n = (key: string) => settingsOf(values).number(inSet(key, set));
  return {
    rollMax: n('rate.roll.max') * DEG,
    pitchMax: n('rate.pitch.max') * DEG,
    yawMax: n('rate.yaw.max') * DEG,
    roll: gainsOf(values, 'roll', set),
    pitch: gainsOf(values, 'pitch', set),
    yaw: gainsOf(values, 'yaw', set),
    levelTime: n('level.time'),
    bank: n('level.bank') * DEG,
    up: n('level.up') * DEG,
    down: n('level.down') * DEG,
  };
}
