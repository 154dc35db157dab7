import { gyrosOn } from '#core/board/model.ts';
import { parsed } from '#core/parsed.ts';
import type { SettingValue } from '#core/settings/catalogue.ts';
import { fingerprintOf } from '#core/settings/fingerprint.ts';
import { settingOf } from '#core/settings/typed.ts';
import { type Act, isActing } from '#core/wire/acts.ts';
import { encodeFrame, FrameReader } from '#core/wire/frames.ts';
import {
  type Abilities,
  LINK_VERSION,
  PAGE_ENTRIES,
  type Request,
  requestKinds,
  requestSchema,
} from '#core/wire/messages.ts';
import { Refused } from '#core/wire/refusals.ts';
import { isGroup, type TelemetryGroup, telemetryGroups } from '#core/wire/telemetry.ts';
import { OUTPUT_COUNT } from './catalogue/counts.ts';
import type { CommitResult, Pfad } from './pfad.ts';
import { framesOn, notPassedOn, procedureKinds } from './procedures.ts';
import { streamSources } from './rawStreams.ts';
import type { Readings } from './readings.ts';
import { SelfTester } from './selfTest.ts';
import { servicesOf } from './services.ts';
import { told } from './told.ts';
import { WRITTEN_VERSION } from './versions.ts';

interface WriteSession {
  readonly session: number;
  readonly parts: Map<number, readonly (readonly [string, SettingValue])[]>;
  /** The answer of the first commit, given again to its repeats. */
  committed: CommitResult | null;
}

/** What came with 3.2. */
const SINCE_32: readonly string[] = [
  ...['heard', 'sky', 'services', 'radio', 'listen-port', 'listen-receiver'],
  ...['controllers-read', 'controller-write', 'teach-ends', 'motors', 'answers', 'home'],
  ...['plan-read', 'plan-begin', 'plan-put', 'plan-commit', 'plan-status', 'charge'],
  ...['gyro-2', 'accelerometer-2', 'airspeed', 'rangefinder', 'flow', 'battery', 'dials', 'tune', 'trim'],
  ...['overlay', 'tells', 'signals', 'video', 'log-clear'],
];

/** All of the link but the loader's part of it, as far as a version has it. */
function abilitiesOf({ version, model }: Pfad): Abilities {
  const chips = gyrosOn(model);
  const has = (what: string) =>
    (version === WRITTEN_VERSION || !SINCE_32.includes(what)) && (chips === 2 || !what.endsWith('-2'));
  return {
    // From 3.2 what is for a controller's loader is passed on.
    requests: requestKinds.filter((k) => (version === WRITTEN_VERSION || !k.startsWith('loader-')) && has(k)),
    telemetry: telemetryGroups.filter(has),
    procedures: procedureKinds.filter(has),
    streams: streamSources.filter((s) => has(s.source)),
  };
}

/** An application that is there asks something every second; after so long without it leave to move outputs has lapsed, s. */
const SILENT_S = 4;
const MAX_PARTS = 64;
const PART_ITEMS = 128;
const LOG_PART = 4096;

export const LATE = new Refused(
  'late',
  'The command comes late or once more, or was meant for the board before it restarted. Nothing was done.',
);

/** The board's end of the link: bytes in, bytes out. Nothing that arrives may throw. */
export class BoardLink {
  readonly reader: FrameReader;
  restartWanted = false;
  loaderWanted = false;
  private write: WriteSession | null = null;
  private readonly rates = new Map<TelemetryGroup, { everyS: number; dueS: number }>();
  private telemetryNumber = 0;
  /** How late anything was told since the services were last. */
  private lateS = 0;
  /** When anything was last heard over the link, by the board's time. */
  private heardS = 0;
  private readonly selfTester: SelfTester;

  constructor(
    private readonly pfad: Pfad,
    private readonly readings: Readings,
    private readonly send: (bytes: Uint8Array) => void,
  ) {
    this.selfTester = new SelfTester(pfad, readings);
    this.reader = new FrameReader((message) => this.receive(message));
    // Streams end with the link that asked for them.
    pfad.streams.endAll();
    pfad.streams.onBlock = ({ source, n, atS, dtS, values }) =>
      this.send(encodeFrame({ t: 'st', s: source, n, at: atS, dt: dtS, v: littleEndian(values) }));
  }

  /** Sends the telemetry that is due. Call it at least every 10 ms of board time. */
  pump(): void {
    this.selfTester.listen();
    const now = this.pfad.uptimeS;
    // Who gave leave to move outputs is not there any more.
    if (now - this.heardS > SILENT_S) this.pfad.controller.bench.withdraw();
    for (const [group, rate] of this.rates) {
      if (now < rate.dueS) continue;
      this.lateS = Math.max(this.lateS, now - rate.dueS);
      rate.dueS = Math.max(rate.dueS + rate.everyS, now);
      this.telemetryNumber = (this.telemetryNumber + 1) >>> 0;
      this.send(encodeFrame({ t: 'tm', g: group, n: this.telemetryNumber, at: now, v: this.told(group) }));
    }
  }

  private told(group: TelemetryGroup): unknown {
    if (group !== 'services') return told(group, this.pfad, this.readings);
    const { damaged, tooLong } = this.reader.counts;
    const services = servicesOf(this.pfad, this.readings, this.lateS, damaged + tooLong);
    this.lateS = 0;
    return services;
  }

  private receive(message: unknown): void {
    this.heardS = this.pfad.uptimeS;
    const result = parsed(requestSchema, message);
    if (!result.success) {
      const id = (message as { id?: unknown } | null)?.id;
      if (typeof id === 'number' && Number.isInteger(id) && id >= 0 && id <= 0xffffffff) {
        this.refuse(
          id,
          new Refused('unknown-request', 'The board does not know this request, or a part of it is wrong.'),
        );
      }
      return;
    }
    const request = result.data;
    const late = isActing(request.t) && !this.pfad.acts.take((request as { act?: Act }).act);
    const answer = late ? LATE : this.answer(request);
    if (answer === null) return;
    if (answer instanceof Refused) this.refuse(request.id, answer);
    else this.send(encodeFrame({ t: 'ok', id: request.id, a: answer }));
  }

  private refuse(id: number, { code, why }: Refused): void {
    this.send(encodeFrame({ t: 'no', id, code, why }));
  }

  /** The answer, or null when it comes later. */
  private answer(q: Request): object | Refused | null {
    const pfad = this.pfad;
    const c = pfad.controller;
    switch (q.t) {
      case 'hello':
        return {
          board: pfad.description.board,
          revision: pfad.description.revision,
          target: pfad.description.target,
          firmware: 'Pfad',
          version: pfad.version,
          serial: pfad.serial,
          link: LINK_VERSION,
          settings: pfad.catalogue.entries.length,
          fingerprint: pfad.fingerprint,
          uptimeS: pfad.uptimeS,
          restartCause: pfad.restartCause,
          acts: { key: pfad.acts.key, after: pfad.acts.after },
          can: abilitiesOf(pfad),
          ...(pfad.note === undefined ? {} : { note: pfad.note }),
        };
      case 'self-test':
        return this.selfTester.report();
      case 'describe':
        return pfad.description;
      case 'catalogue': {
        const entries = pfad.catalogue.entries;
        return { total: entries.length, entries: entries.slice(q.from, q.from + PAGE_ENTRIES / 2) };
      }
      case 'rules':
        return { rules: pfad.catalogue.rules };
      case 'values': {
        const entries = pfad.catalogue.entries;
        const items = entries
          .slice(q.from, q.from + 4 * PAGE_ENTRIES)
          .map((e) => [e.key, pfad.values[e.key]!]);
        return { total: entries.length, items };
      }
      case 'write-begin':
        if (this.write?.session !== q.session) {
          if (q.base !== pfad.fingerprint)
            return new Refused(
              'other-settings',
              'The settings on the board are others than those the edits were made on. Read them again.',
            );
          if (pfad.storing) return new Refused('storing', 'The board is still storing the write before.');
          this.write = { session: q.session, parts: new Map(), committed: null };
        }
        return { base: q.base };
      case 'write-put': {
        const w = this.write;
        if (w?.session !== q.session) return new Refused('no-write', 'No write is open under this number.');
        if (w.committed) return { parts: w.parts.size };
        if (q.part >= MAX_PARTS || q.items.length > PART_ITEMS)
          return new Refused('too-much', 'More edits than a write may have.');
        w.parts.set(q.part, q.items);
        return { parts: w.parts.size };
      }
      case 'write-commit':
        return this.commit(q);
      case 'write-status': {
        const known = this.write?.session === q.session;
        const state = !known
          ? 'none'
          : !this.write?.committed
            ? 'open'
            : pfad.storing
              ? 'storing'
              : pfad.storeFailed
                ? 'failed'
                : 'stored';
        return { state, fingerprint: pfad.fingerprint, restartNeeded: pfad.restartNeeded };
      }
      case 'plan-read':
        return pfad.plans.read(q.from, q.count);
      case 'plan-begin':
        return pfad.plans.begin(q.session, q.base, q.size, q.crc);
      case 'plan-put':
        return pfad.plans.put(q.session, q.at, q.bytes);
      case 'plan-commit':
        return pfad.plans.commit(q.session, c.armed);
      case 'plan-status':
        return pfad.plans.status(q.session);
      case 'subscribe':
        if (!isGroup(q.group)) return new Refused('unknown-group', `There is no telemetry named ${q.group}.`);
        if (q.hz === 0) this.rates.delete(q.group);
        else this.rates.set(q.group, { everyS: 1 / q.hz, dueS: pfad.uptimeS });
        return { hz: q.hz };
      case 'stream': {
        const hz = pfad.streams.ask(q.source, q.hz);
        return hz === null ? new Refused('unknown-stream', `There is no stream named ${q.source}.`) : { hz };
      }
      case 'bench-allow':
        if (q.propellersOff && c.armed)
          return new Refused('armed', 'The craft is armed. Nothing is moved by hand while it is.');
        if (q.propellersOff) c.bench.allow();
        else c.bench.withdraw();
        return { allowed: c.bench.allowed };
      case 'bench-move':
        if (q.output < 1 || q.output > OUTPUT_COUNT)
          return new Refused('no-output', `There is no output ${q.output}.`);
        if (c.armed) return new Refused('armed', 'The craft is armed. Nothing is moved by hand while it is.');
        if (!c.bench.allowed) return new Refused('propellers', 'First confirm that the propellers are off.');
        if (q.run > pfad.acts.after || !c.bench.request(q.output, q.run, q.to))
          return new Refused('hold-over', 'This hold has ended. Let go and hold again.');
        return { output: q.output };
      case 'bench-stop':
        c.bench.stop();
        return {};
      case 'heard': {
        if (q.port === 'receiver') return { baud: 0, bytes: c.input.recent() };
        const baud = this.readings.gnssPortBaud || Number(settingOf(pfad.values, 'gnss.baud') ?? 0);
        return { baud, bytes: c.sensing.nmea.recent() };
      }
      case 'procedure-start':
        if (q.run > pfad.acts.after) return LATE;
        return pfad.procedures.start(q.run, q.kind, c, this.readings, q.with);
      case 'procedure-state':
        return pfad.procedures.report(q.run);
      case 'procedure-cancel':
        return pfad.procedures.cancel(q.run, this.readings);
      case 'decisions': {
        const { decisions, count } = c.journal;
        const first = Math.max(q.from, count - decisions.length);
        const items = decisions.slice(decisions.length - (count - first)).slice(0, 64);
        return { total: count, from: first, items: count > first ? items : [] };
      }
      case 'log-list':
        return { flights: pfad.log?.list().slice(-256) ?? [] };
      case 'log-read': {
        const bytes = pfad.log?.read(q.flight, q.from, Math.min(q.count, LOG_PART));
        return bytes ? { bytes } : new Refused('no-flight', `There is no flight ${q.flight} on the board.`);
      }
      case 'log-clear':
        if (c.armed)
          return new Refused('armed', 'The craft is armed. Flights are thrown away only disarmed.');
        pfad.log?.clear(q.upTo);
        return { left: pfad.log?.list().length ?? 0 };
      case 'restart':
        if (c.armed) return new Refused('armed', 'The craft is armed. It restarts only disarmed.');
        if (pfad.storing) return new Refused('storing', 'The board is storing settings. Wait a moment.');
        this.restartWanted = true;
        return {};
      case 'enter-loader':
        if (c.armed) return new Refused('armed', 'The craft is armed. The loader is entered only disarmed.');
        if (pfad.storing) return new Refused('storing', 'The board is storing settings. Wait a moment.');
        this.loaderWanted = true;
        return {};
      case 'loader-state':
      case 'loader-begin':
      case 'loader-block':
      case 'loader-verify':
      case 'loader-start':
        return q.to === undefined
          ? new Refused('in-firmware', 'The firmware is running. Enter the loader first.')
          : this.passOn(q, q.to);
    }
  }

  /** To the loader of the motor controller on an output. */
  private passOn(q: Extract<Request, { t: `loader-${string}` }>, output: number): object | Refused | null {
    const c = this.pfad.controller;
    const wire = this.readings.controllers.find((w) => w.output === output);
    if (!wire) return new Refused('no-output', `No motor controller hangs on output ${output}.`);
    if (c.armed)
      return new Refused('armed', 'The craft is armed. Nothing is passed on to motor controllers.');
    const why = notPassedOn(c);
    if (why) return why;
    if (!framesOn(c, output) || !wire.loads)
      return new Refused(
        'silent',
        'This controller is driven by pulses, or understands nothing else: it cannot be told anything.',
      );
    const { loader } = wire;
    switch (q.t) {
      case 'loader-state':
        return loader.state();
      case 'loader-begin': {
        const begun = loader.begin(q.plan);
        if (begun instanceof Refused) return begun;
        wire.enterLoader();
        return {};
      }
      case 'loader-block':
        loader.onWritten = (id) => this.send(encodeFrame({ t: 'ok', id, a: {} }));
        return loader.block(q);
      case 'loader-verify':
        return loader.verify();
      case 'loader-start':
        return wire.start() ? {} : new Refused('not-verified', 'There is no verified firmware to start.');
    }
  }

  private commit(q: Extract<Request, { t: 'write-commit' }>): object | Refused {
    const w = this.write;
    if (w?.session !== q.session) return new Refused('no-write', 'No write is open under this number.');
    if (w.committed) return w.committed;
    const items = [...w.parts.entries()].sort((a, b) => a[0] - b[0]).flatMap((p) => p[1]);
    const edits: Record<string, SettingValue> = Object.fromEntries(items);
    if (Object.keys(edits).length !== q.count || fingerprintOf(edits) !== q.sum) {
      return new Refused(
        'incomplete',
        'Part of the edits is missing or changed on the way. Nothing was written.',
      );
    }
    w.committed = this.pfad.commit(edits);
    return w.committed;
  }
}

/** Numbers as they travel: 32 bits each, little-endian, whatever machine this is. */
function littleEndian(values: Float32Array): Uint8Array {
  const bytes = new Uint8Array(4 * values.length);
  const view = new DataView(bytes.buffer);
  for (const [i, v] of values.entries()) view.setFloat32(4 * i, v, true);
  return bytes;
}
