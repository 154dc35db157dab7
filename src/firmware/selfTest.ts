import { outerBus } from '#core/board/boards.ts';
import { type PortUse, portFor } from '#core/board/portUses.ts';
import { settingOf } from '#core/settings/typed.ts';
import type { SelfTest } from '#core/wire/messages.ts';
import type { Pfad } from './pfad.ts';
import type { Readings } from './readings.ts';

/** The board listens for so long before it tells, s; every slow device speaks at least once in it. */
const LISTENS_S = 1.2;
/** Below this the battery is not in, V. */
const BATTERY_IN_V = 5;

/** Counts of all that is heard. */
interface Counts {
  readonly atS: number;
  readonly imus: readonly number[];
  readonly baro: number;
  readonly pitot: number;
  readonly range: number;
  readonly flow: number;
  readonly compass: number;
  readonly gnssBytes: number;
  readonly gnssFrames: number;
  readonly gnssOnTx: number;
  readonly receiverBytes: number;
  readonly receiverFrames: number;
}

type Item = SelfTest['items'][number];

/** Hears who answers on each bus and port, over the last while. */
export class SelfTester {
  private older: Counts;
  private newer: Counts;

  constructor(
    private readonly pfad: Pfad,
    private readonly readings: Readings,
  ) {
    this.older = this.newer = this.count();
  }

  /** Call it now and then, at least each tenth of a second. */
  listen(): void {
    if (this.pfad.uptimeS - this.newer.atS < LISTENS_S / 2) return;
    this.older = this.newer;
    this.newer = this.count();
  }

  report(): SelfTest {
    const { model, values } = this.pfad;
    const r = this.readings;
    const was = this.older;
    const now = this.count();
    const onBattery = r.supplyV >= BATTERY_IN_V;
    const items: Item[] = [];
    let imu = 0;
    for (const bus of model.buses) {
      for (const { device } of bus.onBoard) {
        const alive = /gyro/.test(device) ? now.imus[imu]! > was.imus[imu++]! : now.baro > was.baro;
        const says = alive
          ? ''
          : 'Soldered on the board and does not answer: the chip is broken, or its bus is held by another device.';
        items.push({ on: bus.name, what: device, state: alive ? 'answers' : 'silent', says });
      }
    }
    const outer = outerBus(model);
    const fitted = [
      ['airspeed sensor', 'pitot.fitted', 'pitot'],
      ['compass', 'compass.fitted', 'compass'],
      ['rangefinder', 'range.fitted', 'range'],
      ['optical flow', 'flow.fitted', 'flow'],
    ] as const;
    for (const [what, key, at] of fitted) {
      const alive = now[at] > was[at];
      if (values[key] !== true && !alive) continue;
      const says = alive
        ? values[key] === true
          ? ''
          : 'It answers, but the settings say that none is fitted: it is not used.'
        : outer.batteryFed && !onBattery
          ? `What hangs on ${outer.name} has power only with the battery in, and it is out. Put the battery in and look again.`
          : 'The settings say that it is fitted, and it does not answer: look at its plug, then at its address.';
      items.push({ on: outer.name, what, state: alive ? 'answers' : 'silent', says });
    }
    items.push(this.receiver(was, now), this.gnss(was, now));
    for (const { on, what, product, version } of r.parts)
      items.push({ on, what, state: 'answers', says: '', product, version });
    if (!onBattery)
      items.push({
        on: 'motor pads',
        what: 'motor controllers',
        state: 'silent',
        says: 'They live on the battery, which is out: nothing can be said of them yet.',
      });
    items.push(this.store());
    return { settled: this.pfad.uptimeS >= LISTENS_S, items };
  }

  private receiver(was: Counts, now: Counts): Item {
    const bytes = now.receiverBytes > was.receiverBytes;
    const frames = now.receiverFrames > was.receiverFrames;
    const protocol = String(settingOf(this.pfad.values, 'rx.protocol') ?? '');
    const says = frames
      ? ''
      : bytes
        ? `Bytes come that are no frames of ${protocol}: the receiver speaks something else, or at another speed.`
        : 'Nothing comes: the transmitter is off, or the receiver has no power or hangs on another port.';
    const state = frames ? 'answers' : bytes ? 'garbage' : 'silent';
    return { on: this.portOf('receiver'), what: 'receiver', state, says };
  }

  private gnss(was: Counts, now: Counts): Item {
    const [product, version] = this.pfad.controller.sensing.nmea.text.split(' ');
    const on = this.portOf('gnss');
    const own = product && version ? { product, version } : {};
    if (now.gnssFrames > was.gnssFrames)
      return { on, what: 'GNSS receiver', state: 'answers', says: '', ...own };
    if (now.gnssBytes > was.gnssBytes)
      return {
        on,
        what: 'GNSS receiver',
        state: 'garbage',
        says: `Bytes come that are no sentences: it speaks at another speed than ${settingOf(this.pfad.values, 'gnss.baud')} baud.`,
      };
    if (now.gnssOnTx > was.gnssOnTx)
      return {
        on,
        what: 'GNSS receiver',
        state: 'crossed',
        says: 'It is heard on the pad that the board sends on: its two signal wires are swapped. Cross them; nothing else is wrong.',
      };
    return {
      on,
      what: 'GNSS receiver',
      state: 'silent',
      says: 'Nothing is heard on either of the two pads: it has no power, or it is dead.',
    };
  }

  private store(): Item {
    const says = {
      chip: '',
      in: '',
      missing: 'No card is in it: flights are not logged. All else works; put one in before the field.',
      full: 'The card is full: flights are not logged until there is room. Settings are not on the card; they are safe.',
    } as const;
    const { card } = this.readings;
    const state = card === 'missing' || card === 'full' ? card : 'answers';
    return { on: 'log', what: card === 'chip' ? 'log chip' : 'memory card', state, says: says[card] };
  }

  private portOf(use: PortUse): string {
    return portFor(this.pfad.description, this.pfad.values, use)?.name ?? 'no port';
  }

  private count(): Counts {
    const r = this.readings;
    const { sensing, input } = this.pfad.controller;
    return {
      atS: this.pfad.uptimeS,
      imus: r.imus.map((i) => i.samples),
      baro: r.baro.samples,
      pitot: r.pitot.samples,
      range: r.range.samples,
      flow: r.flow.samples,
      compass: r.compass.samples,
      gnssBytes: sensing.nmea.bytes,
      gnssFrames: sensing.nmea.sentences,
      gnssOnTx: r.gnssOnTx,
      receiverBytes: input.heard,
      receiverFrames: input.frames,
    };
  }
}
