import { parsed } from '#core/parsed.ts';
import { ActNumbers, isActing } from '#core/wire/acts.ts';
import { encodeFrame, FrameReader } from '#core/wire/frames.ts';
import {
  type Answer,
  answerSchemas,
  fromBoardSchema,
  LINK_VERSION,
  type Request,
  type RequestKind,
} from '#core/wire/messages.ts';
import { isGroup, telemetrySchemas } from '#core/wire/telemetry.ts';
import type { Transport } from './transport.ts';

export type LinkFault = 'silent' | 'closed' | 'refused' | 'garbled';

/** A request that was not answered as hoped; `message` is a sentence for a person. */
export class LinkError extends Error {
  constructor(
    readonly fault: LinkFault,
    message: string,
    /** Of a refusal: why, as a word for tools (docs/link.md). */
    readonly code: string | null = null,
  ) {
    super(message);
  }
}

/** Samples of a sensor as they came over the cable, fields interleaved. */
export interface StreamBlock {
  /** Counts up with every block of a stream. */
  readonly n: number;
  /** Board's time of the first sample and between samples, s. */
  readonly atS: number;
  readonly dtS: number;
  readonly values: Float32Array;
}

type Body<K extends RequestKind> = Omit<Extract<Request, { t: K }>, 't' | 'id'>;

interface Waiting {
  readonly kind: RequestKind;
  readonly resolve: (answer: unknown) => void;
  readonly reject: (error: LinkError) => void;
}

const TIMEOUT_MS = 400;
/** Every request may be repeated: the board answers a repeat of a write as it answered the first. */
const TRIES = 6;

/** The application's end of the link: requests with answers, and telemetry as it comes. */
export class LinkClient {
  /** A known group comes decoded; what the board adds of its own, as it is. `atS` is the board's time. */
  onTelemetry: (group: string, value: unknown, atS: number) => void = () => {};
  onStream: (source: string, block: StreamBlock) => void = () => {};
  onClosed: () => void = () => {};
  readonly reader: FrameReader;
  /** How the board on the link numbers the commands that act. */
  readonly acts = new ActNumbers();
  private nextId = 1;
  private closed = false;
  private readonly waiting = new Map<number, Waiting>();

  constructor(private readonly transport: Transport) {
    this.reader = new FrameReader((message) => this.receive(message));
    transport.onBytes = (bytes) => this.reader.push(bytes);
    transport.onClosed = () => this.end();
  }

  get isOpen(): boolean {
    return !this.closed;
  }

  /**
   * Sends a request until it is answered. The id stays the same over the repeats.
   * @throws LinkError when the board refuses, stays silent or the link closes
   */
  async request<K extends RequestKind>(
    kind: K,
    body: Body<K>,
    tries = TRIES,
    timeoutMs = TIMEOUT_MS,
  ): Promise<Answer<K>> {
    if (this.closed) throw new LinkError('closed', 'The link to the board is closed.');
    // Who has not met the board yet does not know how it numbers commands.
    if (isActing(kind) && !this.acts.known) await this.request('hello', { link: LINK_VERSION });
    const id = this.nextId;
    this.nextId = this.nextId >= 0xffffffff ? 1 : this.nextId + 1;
    const reading = isActing(kind) ? null : encodeFrame({ t: kind, id, ...body });
    return await new Promise<Answer<K>>((resolve, reject) => {
      let left = tries;
      let timer: ReturnType<typeof setTimeout>;
      const done = () => {
        clearTimeout(timer);
        this.waiting.delete(id);
      };
      const attempt = () => {
        if (left-- <= 0) {
          done();
          reject(
            new LinkError(
              'silent',
              'The board does not answer. Nothing it did not confirm is taken as done.',
            ),
          );
          return;
        }
        // A command has a new number each time, so that the board knows it from one that was held up on the way.
        this.transport.send(reading ?? encodeFrame({ t: kind, id, ...body, ...this.acts.field(kind) }));
        timer = setTimeout(attempt, timeoutMs);
      };
      this.waiting.set(id, {
        kind,
        resolve: (answer) => {
          const result = parsed(answerSchemas[kind], answer);
          done();
          if (kind === 'hello' && result.success) this.acts.learn((result.data as Answer<'hello'>).acts);
          if (result.success) resolve(result.data as Answer<K>);
          else
            reject(
              new LinkError('garbled', 'The board answered something this application does not understand.'),
            );
        },
        reject: (error) => {
          done();
          reject(error);
        },
      });
      attempt();
    });
  }

  /** Sends a request once and waits for nothing; for commands that are said again soon anyway. */
  say<K extends RequestKind>(kind: K, body: Body<K>): void {
    if (this.closed) return;
    const id = this.nextId;
    this.nextId = this.nextId >= 0xffffffff ? 1 : this.nextId + 1;
    this.transport.send(encodeFrame({ t: kind, id, ...body, ...this.acts.field(kind) }));
  }

  close(): void {
    if (this.closed) return;
    this.transport.close();
    this.end();
  }

  private end(): void {
    if (this.closed) return;
    this.closed = true;
    const error = new LinkError('closed', 'The cable came out or the board lost its power.');
    for (const w of [...this.waiting.values()]) w.reject(error);
    this.onClosed();
  }

  private receive(message: unknown): void {
    const result = parsed(fromBoardSchema, message);
    if (!result.success) return;
    const m = result.data;
    if (m.t === 'tm') {
      const value = isGroup(m.g) ? parsed(telemetrySchemas[m.g], m.v) : { success: true, data: m.v };
      if (value.success) this.onTelemetry(m.g, value.data, m.at);
      return;
    }
    if (m.t === 'st') {
      const view = new DataView(m.v.buffer, m.v.byteOffset, m.v.byteLength);
      const values = Float32Array.from({ length: m.v.byteLength >> 2 }, (_, i) =>
        view.getFloat32(4 * i, true),
      );
      this.onStream(m.s, { n: m.n, atS: m.at, dtS: m.dt, values });
      return;
    }
    const w = this.waiting.get(m.id);
    if (!w) return;
    // A frame that the cable brought twice is refused the second time; what became of the first is told on its own, or
    // asked again under a new number.
    if (m.t === 'no' && m.code === 'late' && isActing(w.kind)) return;
    if (m.t === 'ok') w.resolve(m.a);
    else w.reject(new LinkError('refused', m.why, m.code));
  }
}
