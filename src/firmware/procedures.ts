import { StickLearning } from '#core/calibration/stickLearning.ts';
import { NmeaReader } from '#core/sensors/nmea.ts';
import { type HeardAt, judgeHeard } from '#core/sensors/portHearing.ts';
import {
  CrsfReader,
  PulseTrainReader,
  protocolNames,
  type ReceiverReader,
  SbusReader,
} from '#core/sensors/receiverFrames.ts';
import type { SettingValue, Values } from '#core/settings/catalogue.ts';
import type { ProcedureReport } from '#core/wire/messages.ts';
import { Refused } from '#core/wire/refusals.ts';
import type { FlightController } from './flightController.ts';
import type { PilotInput, ReceiverTap } from './pilotInput.ts';
import type { ControllerOnWire, Readings } from './readings.ts';

/** What a procedure says after a step. */
type Said = Pick<ProcedureReport, 'state' | 'progress' | 'says'> & Partial<ProcedureReport>;

interface Procedure {
  step(controller: FlightController, dt: number, readings: Readings): Said;
  /** Leaves everything as it was found; called however it ends. */
  end?(readings: Readings): void;
}

const failed = (code: string, says: string): Said => ({ state: 'failed', progress: 0, code, says });

/** Who waits longer for a stick has forgotten it, s. */
const STICK_WAITS_S = 30;

/** Which channel a stick moves. */
class LearnStick implements Procedure {
  private readonly learning = new StickLearning();
  private waitedS = 0;
  private sinceFrameS = 0;
  private said: Said = { state: 'running', progress: 0, says: 'Let all sticks rest first.' };

  step({ input }: FlightController, dt: number): Said {
    this.waitedS += dt;
    this.sinceFrameS += dt;
    if (!input.linkAlive) return failed('silent', 'The receiver fell silent while a stick was awaited.');
    const { stillMoving } = this.learning;
    if (this.waitedS > STICK_WAITS_S && stillMoving !== null)
      return failed(
        'restless',
        `Channel ${stillMoving} did not rest within ${STICK_WAITS_S} s; let go of every stick and ask again.`,
      );
    if (this.waitedS > STICK_WAITS_S)
      return failed('nothing-moved', `No stick was moved to its end within ${STICK_WAITS_S} s.`);
    if (!input.fresh) return this.said;
    const outcome = this.learning.look(input.channels, this.sinceFrameS);
    this.sinceFrameS = 0;
    if (outcome.kind === 'unclear') return failed('unclear', outcome.says);
    if (outcome.kind === 'waiting') {
      const { progress, says } = outcome;
      this.said = { state: 'running', progress, says };
      return this.said;
    }
    const { channel, fromUs, toUs } = outcome;
    return {
      state: 'done',
      progress: 1,
      says: `Channel ${channel} went from ${fromUs.toFixed(0)} to ${toUs.toFixed(0)} µs.`,
      result: { channel, fromUs, toUs },
    };
  }
}

/** How long each speed is listened at, s: receivers say something every second. */
const LISTEN_S = 1.4;
const SPEEDS = [9600, 38400, 57600, 115200] as const;

/** Listens for the GNSS receiver at every speed, on both pads of its port. */
class ListenPort implements Procedure {
  private readonly heard: HeardAt[] = [];
  private readonly onTx = new NmeaReader();
  private at = 0;
  private forS = 0;
  private was = { bytes: 0, sentences: 0, framing: 0, onTx: 0, txSentences: 0 };

  constructor(
    { sensing }: FlightController,
    private readonly readings: Readings,
  ) {
    this.begin(sensing.nmea);
  }

  private begin(nmea: NmeaReader): void {
    this.readings.gnssPortBaud = SPEEDS[this.at]!;
    this.readings.gnssTx.clear();
    this.forS = 0;
    this.was = this.counts(nmea);
  }

  private counts({ bytes, sentences }: NmeaReader) {
    const { gnssFraming, gnssOnTx } = this.readings;
    return { bytes, sentences, framing: gnssFraming, onTx: gnssOnTx, txSentences: this.onTx.sentences };
  }

  step({ sensing }: FlightController, dt: number, r: Readings): Said {
    while (r.gnssTx.length > 0) this.onTx.push(r.gnssTx.shift());
    this.forS += dt;
    const baud = SPEEDS[this.at]!;
    const progress = (this.at + this.forS / LISTEN_S) / SPEEDS.length;
    if (this.forS < LISTEN_S) return { state: 'running', progress, says: `Listening at ${baud} baud.` };
    const { was } = this;
    const now = this.counts(sensing.nmea);
    const crossed = now.onTx - was.onTx;
    this.heard.push({
      baud,
      seconds: LISTEN_S,
      bytes: now.bytes - was.bytes,
      framing: now.framing - was.framing,
      sentences: now.sentences - was.sentences + now.txSentences - was.txSentences,
      crossed,
    });
    this.at++;
    if (this.at < SPEEDS.length) {
      this.begin(sensing.nmea);
      return { state: 'running', progress, says: `Listening at ${SPEEDS[this.at]} baud.` };
    }
    return { state: 'done', progress: 1, says: 'It has listened at every speed.', result: this.result() };
  }

  /** In numbers and words, as results travel: what was heard at each speed, and what that means. */
  private result(): Record<string, SettingValue> {
    const hearing = judgeHeard(this.heard);
    return {
      kind: hearing.kind,
      baud: hearing.kind === 'found' ? hearing.baud : 0,
      crossed: hearing.kind === 'silent' ? false : hearing.crossed,
      ...Object.fromEntries(
        this.heard.flatMap((h) => [
          [`bytes.${h.baud}`, Math.max(h.bytes, h.crossed)],
          [`sentences.${h.baud}`, h.sentences],
          [`framing.${h.baud}`, h.framing],
        ]),
      ),
    };
  }

  end(r: Readings): void {
    r.gnssPortBaud = 0;
  }
}

/** How long each protocol is listened for, s; how long what is less likely is; and how many whole frames tell one. */
const PROTOCOL_S = 0.8;
const UNLIKELY_S = 0.4;
const FRAMES_TELL = 10;
const PROTOCOLS = ['crsf', 'sbus', 'pulse-train'] as const;

/** A way to listen to the receiver. */
interface Way {
  readonly protocol: (typeof PROTOCOLS)[number];
  readonly turned: boolean;
  readonly oneWire: boolean;
  /** 0 is the one that is set for it. */
  readonly port: number;
}
const usualWays: readonly Way[] = PROTOCOLS.map((protocol) => ({
  protocol,
  turned: false,
  oneWire: false,
  port: 0,
}));

/** What is tried once nothing usual made frames: levels turned round, one wire, other ports. */
function unlikelyWays(ports: readonly number[]): Way[] {
  const serial = usualWays.filter((w) => w.protocol !== 'pulse-train');
  return [
    ...serial.map((w) => ({ ...w, turned: true })),
    ...serial.map((w) => ({ ...w, oneWire: true })),
    ...serial.map((w) => ({ ...w, turned: true, oneWire: true })),
    ...ports.flatMap((port) => usualWays.map((w) => ({ ...w, port }))),
  ];
}

/** Listens at the receiver's port for every protocol, then for what is less likely; the pilot is not heard meanwhile. */
class ListenReceiver implements Procedure, ReceiverTap {
  private readonly ways: Way[];
  private at = 0;
  private forS = 0;
  private serial: ReceiverReader = new CrsfReader();
  private train = new PulseTrainReader();
  private frames = 0;
  private heard = 0;
  private anything = false;
  private readonly found: Record<string, SettingValue> = {};

  /** @param ports that are free, and looked at when nothing comes to the one that is set */
  constructor(
    private readonly input: PilotInput,
    ports: readonly number[],
  ) {
    input.tap = this;
    this.ways = [...usualWays, ...unlikelyWays(ports)];
  }

  take(r: Readings): void {
    this.heard += r.receiver.length + r.edges;
    const byEdges = r.listens === 'pulse-train';
    while (r.receiver.length > 0) {
      const byte = r.receiver.shift();
      if (!byEdges && this.serial.push(byte)) this.frames++;
    }
    for (let i = 0; i < r.edges; i++) if (byEdges && this.train.edge(r.train[i]!)) this.frames++;
    r.edges = 0;
  }

  step(_controller: FlightController, dt: number, r: Readings): Said {
    const way = this.ways[this.at]!;
    if (this.forS === 0) this.begin(way, r);
    this.forS += dt;
    const lasts = this.at < usualWays.length ? PROTOCOL_S : UNLIKELY_S;
    const progress = (this.at + this.forS / lasts) / this.ways.length;
    if (this.forS < lasts) return { state: 'running', progress, says: saysOf(way) };
    if (this.at < usualWays.length) {
      this.found[`frames.${way.protocol}`] = this.frames;
      this.found[`heard.${way.protocol}`] = this.heard;
    }
    this.anything ||= this.heard > 0 && way.port === 0;
    const whole = this.frames >= FRAMES_TELL;
    this.forS = 0;
    this.at++;
    if (!whole && this.at < this.ways.length) return { state: 'running', progress, says: 'Listening.' };
    return {
      state: 'done',
      progress: 1,
      says: 'It has listened.',
      result: {
        kind: whole ? 'found' : this.anything ? 'garbage' : 'silent',
        protocol: whole ? way.protocol : '',
        turned: whole && way.turned,
        oneWire: whole && way.oneWire,
        port: whole ? way.port : 0,
        ...this.found,
      },
    };
  }

  private begin({ protocol, turned, oneWire, port }: Way, r: Readings): void {
    r.listens = protocol;
    r.listensTurned = turned;
    r.listensOneWire = oneWire;
    r.listensPort = port;
    r.receiver.clear();
    r.edges = 0;
    this.serial = protocol === 'sbus' ? new SbusReader() : new CrsfReader();
    this.train = new PulseTrainReader();
    [this.frames, this.heard] = [0, 0];
  }

  end(r: Readings): void {
    r.listens = '';
    r.listensPort = 0;
    this.input.tap = null;
  }
}

const saysOf = ({ protocol, turned, oneWire, port }: Way): string =>
  `Listening for ${protocolNames[protocol]}${turned ? ', levels turned round' : ''}${oneWire ? ', on one wire' : ''}${port > 0 ? `, at port ${port}` : ''}.`;

/** Free ports as they are asked for: their numbers with commas between. */
const portsIn = (asked: SettingValue | undefined): number[] =>
  (typeof asked === 'string' ? asked.split(',') : [])
    .map(Number)
    .filter((n) => Number.isInteger(n) && n >= 1 && n <= 16)
    .slice(0, 8);

/** What a controller takes to answer, and to keep what it was told and start anew, s. */
const ANSWERS_S = 0.25;
const KEEPS_S = 0.6;

/** Why nothing can be passed on to the controllers now; null where it can. */
export function notPassedOn(c: FlightController): Refused | null {
  if (!(c.supplyV > 5))
    return new Refused('silent', 'Motor controllers have no power from USB. Put the battery in.');
  if (!c.bench.allowed) return new Refused('propellers', 'First confirm that the propellers are off.');
  return null;
}

export const framesOn = (c: FlightController, output: number) =>
  c.config.outputs[output - 1]?.frames === true;

/** Asks every controller what stands in its memory. */
class ReadControllers implements Procedure {
  private at = 0;
  private forS = 0;
  private readonly found: Record<string, SettingValue> = {};

  constructor(private readonly wires: readonly ControllerOnWire[]) {}

  step(c: FlightController, dt: number): Said {
    if (!(c.supplyV > 5)) return failed('silent', 'The battery went out in the middle. Nothing was changed.');
    this.forS += dt;
    const progress = Math.min(1, (this.at + this.forS / ANSWERS_S) / Math.max(1, this.wires.length));
    if (this.at < this.wires.length && this.forS < ANSWERS_S)
      return { state: 'running', progress, says: `Asking the one on output ${this.wires[this.at]!.output}.` };
    const wire = this.wires[this.at];
    if (wire) {
      const n = wire.output;
      const state = !framesOn(c, n) ? 'pulses' : wire.answers ? 'answers' : wire.loads ? 'loader' : 'silent';
      this.found[`${n}.state`] = state;
      if (state === 'loader') this.found[`${n}.product`] = wire.product;
      if (state === 'answers') {
        this.found[`${n}.product`] = wire.product;
        this.found[`${n}.version`] = wire.version;
        for (const [key, value] of Object.entries(wire.read())) this.found[`${n}.${key}`] = value;
      }
    }
    this.at++;
    this.forS = 0;
    return this.at >= this.wires.length
      ? { state: 'done', progress: 1, says: 'Every controller was asked.', result: this.found }
      : { state: 'running', progress, says: '' };
  }
}

/** Tells one controller what to keep, has it start anew, and reads back what stands there then. */
class WriteController implements Procedure {
  private forS = 0;
  private told = false;

  constructor(
    private readonly wire: ControllerOnWire,
    private readonly asked: Values,
  ) {}

  step(c: FlightController, dt: number): Said {
    const { wire } = this;
    if (!(c.supplyV > 5) || !wire.answers)
      return failed(
        'silent',
        `The battery went out in the middle. What the controller on output ${wire.output} holds now is not known: read it again.`,
      );
    this.forS += dt;
    if (!this.told && this.forS > ANSWERS_S) {
      this.told = true;
      for (const [key, value] of Object.entries(this.asked)) if (key !== 'output') wire.write(key, value);
    }
    const all = ANSWERS_S + KEEPS_S + ANSWERS_S;
    if (this.forS < all)
      return {
        state: 'running',
        progress: this.forS / all,
        says: this.told ? 'It starts anew.' : 'It is told.',
      };
    return { state: 'done', progress: 1, says: 'It was read back.', result: { ...wire.read() } };
  }
}

/** How long the battery is waited for, and how long each end is shown, s. */
const BATTERY_WAITS_S = 60;
const SHOWS_S = 3;

/** Shows the controllers of pulse-driven motors both ends: the long one before they get power, the short one after. */
class TeachEnds implements Procedure {
  private forS = 0;
  private powered = false;

  constructor(
    private readonly c: FlightController,
    private readonly motors: number,
  ) {
    c.bench.teaching = 'high';
  }

  step(c: FlightController, dt: number): Said {
    const battery = c.supplyV > 5;
    this.forS += dt;
    if (!this.powered) {
      if (this.forS > BATTERY_WAITS_S)
        return failed('silent', `No battery was put in within ${BATTERY_WAITS_S} s. Nothing was taught.`);
      if (battery) {
        this.powered = true;
        this.forS = 0;
      }
      return { state: 'running', progress: 0.1, says: 'The long end is sent. Put the battery in now.' };
    }
    if (!battery)
      return failed(
        'silent',
        'The battery went out in the middle. What the controllers took is not known: teach them once more.',
      );
    c.bench.teaching = this.forS < SHOWS_S ? 'high' : 'low';
    if (this.forS < 2 * SHOWS_S)
      return {
        state: 'running',
        progress: 0.2 + (0.8 * this.forS) / (2 * SHOWS_S),
        says: this.forS < SHOWS_S ? 'The long end: one tone.' : 'The short end: three tones.',
      };
    return { state: 'done', progress: 1, says: 'Both ends were shown.', result: { motors: this.motors } };
  }

  end(): void {
    this.c.bench.teaching = '';
  }
}

/** Each kind of procedure: begun from what was asked, or refused with the reason. */
const kinds: Readonly<
  Record<string, (controller: FlightController, readings: Readings, asked: Values) => Procedure | Refused>
> = {
  'listen-port': (controller, readings) => new ListenPort(controller, readings),
  'listen-receiver': ({ input }, _readings, asked) => new ListenReceiver(input, portsIn(asked.ports)),
  'controllers-read': (c, { controllers }) => notPassedOn(c) ?? new ReadControllers(controllers),
  'controller-write': (c, { controllers }, asked) => {
    const wire = controllers.find((w) => w.output === asked.output);
    if (!wire)
      return new Refused('no-output', `No motor controller hangs on output ${String(asked.output)}.`);
    if (!framesOn(c, wire.output) || !wire.answers)
      return new Refused(
        'silent',
        'This controller is driven by pulses, or understands nothing else: it cannot be told anything.',
      );
    return notPassedOn(c) ?? new WriteController(wire, asked);
  },
  'teach-ends': (c) => {
    const motors = c.config.outputs.filter((o) => o.isMotor && !o.frames).length;
    if (motors === 0)
      return new Refused(
        'no-output',
        'No motor is driven by pulses: frames carry the throttle as a number and need no ends.',
      );
    if (!c.bench.allowed) return new Refused('propellers', 'First confirm that the propellers are off.');
    if (c.supplyV > 5)
      return new Refused(
        'silent',
        'The battery is in. Take it out first: controllers take ends only when they get their power.',
      );
    return new TeachEnds(c, motors);
  },
  'learn-stick': (controller) =>
    controller.input.linkAlive
      ? new LearnStick()
      : new Refused('silent', 'The receiver sends nothing. Switch the transmitter on.'),
};
export const procedureKinds = Object.keys(kinds);

const none: Said = { state: 'none', progress: 0, says: '' };

/**
 * What takes the board a while and is done by it alone: one at a time, under a number that the application chose. Numbers
 * grow, so that a late repeat of an old start begins nothing. It goes on when the cable comes out.
 */
export class Procedures {
  private run = 0;
  private procedure: Procedure | null = null;
  private said: Said = none;

  /** Begins one, which ends the one before; said again, it changes nothing. */
  start(
    run: number,
    kind: string,
    controller: FlightController,
    readings: Readings,
    asked: Values = {},
  ): object | Refused {
    if (run === this.run) return { run };
    if (run < this.run) return new Refused('run-over', 'Another procedure has begun since.');
    const begin = Object.hasOwn(kinds, kind) ? kinds[kind] : undefined;
    if (!begin) return new Refused('unknown-procedure', `There is no procedure named ${kind}.`);
    if (controller.armed) return new Refused('armed', 'The craft is armed. Nothing is taught while it is.');
    this.procedure?.end?.(readings);
    this.procedure = null;
    const procedure = begin(controller, readings, asked);
    if (procedure instanceof Refused) return procedure;
    this.run = run;
    this.procedure = procedure;
    this.said = { state: 'running', progress: 0, says: '' };
    return { run };
  }

  /** How far it is, or how it ended. */
  report(run: number): ProcedureReport {
    const said = run === this.run ? this.said : none;
    return { code: '', result: {}, ...said };
  }

  cancel(run: number, readings: Readings): ProcedureReport {
    if (run === this.run && this.procedure) {
      this.procedure.end?.(readings);
      this.procedure = null;
      this.said = { state: 'cancelled', progress: this.said.progress, says: 'It was called off.' };
    }
    return this.report(run);
  }

  step(controller: FlightController, dt: number, readings: Readings): void {
    if (!this.procedure) return;
    this.said = controller.armed
      ? failed('armed', 'The craft was armed in the middle.')
      : this.procedure.step(controller, dt, readings);
    if (this.said.state === 'running') return;
    this.procedure.end?.(readings);
    this.procedure = null;
  }
}
