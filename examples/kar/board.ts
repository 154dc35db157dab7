import { crc32 } from 'node:zlib';
import { frameOf, reader } from './frames.ts';
import { type Setting, settings, type Value } from './settings.ts';

/**
 * Kar: the least firmware that docs/link.md allows, on a board that nobody knows. It says who it is, what it can be told,
 * takes edits all together or not at all, and tells a little of itself. What it has not, it says in `can`.
 */

type Values = Record<string, Value>;
interface Request {
  readonly t: string;
  readonly id: number;
  readonly [field: string]: unknown;
}
interface Write {
  readonly session: number;
  readonly parts: Map<number, [string, Value][]>;
  answer: { state: string; refusals: Refusal[] } | null;
}
/** Answers that it will not. */
type Say = (code: string, why: string) => null;
interface Refusal {
  readonly key: string;
  readonly code: string;
  readonly why: string;
}

const telemetry: Readonly<Record<string, (atS: number, name: Value) => unknown>> = {
  attitude: (t) => [0.1 * Math.sin(t), 0.03 * Math.sin(0.7 * t), 0.2 * t, 0, 0, 0.2],
  status: (_, name) => ({
    mode: 'flat',
    armed: false,
    blockers: [{ id: 'lid', why: `The lid of ${name} is open.` }],
    lost: 'humming',
    lostAction: 'none',
    restartNeeded: false,
    benchAllowed: false,
    moving: 0,
    unavailable: [{ mode: 'home', why: 'It does not know where home is.' }],
    refusal: '',
    decisions: 0,
  }),
  mood: (t) => ({ word: 'calm', since: Math.floor(t) }),
};

const requests = [
  'hello', 'describe', 'catalogue', 'values', 'write-begin', 'write-put', 'write-commit', 'write-status', 'subscribe',
  'restart',
]; // biome-ignore format: a list

const fingerprint = (values: Values): string => {
  const text = (v: Value) => (typeof v === 'number' ? String(Number(v.toPrecision(7))) : String(v));
  const lines = Object.keys(values)
    .sort()
    .map((key) => `${key}=${text(values[key]!)}`);
  return crc32(lines.join('\n')).toString(16).padStart(8, '0');
};

/** Why a setting does not take a value, or null. */
function fault({ key, label, type, min, max, choices }: Setting, value: unknown): Refusal | null {
  const no = (code: string, why: string) => ({ key, code, why });
  if (type === 'flag') return typeof value === 'boolean' ? null : no('wrong-type', `${label} is yes or no.`);
  if (type === 'choice')
    return choices?.some((c) => c.value === value) ? null : no('not-a-choice', `${label} is none of that.`);
  if (type !== 'number') return no('set-at-the-board', `${label} is set at the board itself.`);
  if (typeof value !== 'number') return no('wrong-type', `${label} is a number.`);
  return value < min! || value > max! ? no('out-of-range', `${label} goes from ${min} to ${max}.`) : null;
}

/** What acts; the rest only tells. */
const acting = new Set(['write-begin', 'write-commit', 'restart']);

/** A board with Kar on it: bytes of the cable in, bytes out. */
export class KarBoard {
  readonly push: (bytes: Uint8Array) => void;
  private readonly values: Values = Object.fromEntries(settings.map((s) => [s.key, s.default]));
  private readonly begun = performance.now();
  private readonly told = new Map<string, ReturnType<typeof setInterval>>();
  private readonly key = Math.floor(Math.random() * 2 ** 32);
  private after = 0;
  private write: Write | null = null;
  private count = 0;

  constructor(
    private readonly send: (bytes: Uint8Array) => void,
    /** The board restarts: whoever holds the cable hears that it is gone. */
    private readonly restart: () => void,
  ) {
    this.push = reader((message) => this.receive(message as Request));
  }

  stop(): void {
    for (const timer of this.told.values()) clearInterval(timer);
    this.told.clear();
  }

  private get atS(): number {
    return (performance.now() - this.begun) / 1000;
  }

  private receive(q: Request): void {
    if (typeof q?.id !== 'number') return;
    const no: Say = (code, why) => {
      this.send(frameOf({ t: 'no', id: q.id, code, why }));
      return null;
    };
    const answer = this.answer(q, no);
    if (answer) this.send(frameOf({ t: 'ok', id: q.id, a: answer }));
  }

  private answer(q: Request, no: Say): object | null {
    const w = this.write?.session === q.session ? this.write : null;
    if (acting.has(q.t) && !this.isNew(q.act))
      return no('late', 'Kar has heard a later command than this one. Nothing was done.');
    switch (q.t) {
      case 'hello':
        return {
          board: 'Grit Mini', revision: '1', target: 'grit-mini', firmware: 'Kar', version: '0.3', serial: 'GM-0007',
          link: 1, settings: settings.length, fingerprint: fingerprint(this.values), uptimeS: this.atS,
          restartCause: 'its own wish', acts: { key: this.key, after: this.after }, can: { requests, telemetry: Object.keys(telemetry) },
        }; // biome-ignore format: a list
      case 'describe':
        return {
          board: 'Grit Mini',
          revision: '1',
          target: 'grit-mini',
          pads: [1, 2, 3].map((output) => ({ output, pad: `Q${output}`, timer: 1 })),
          ports: [{ name: 'USB', link: true }],
        };
      case 'catalogue': {
        const from = Number(q.from);
        return { total: settings.length, entries: settings.slice(from, from + 16) };
      }
      case 'values': {
        const items = settings.slice(Number(q.from)).map((s) => [s.key, this.values[s.key]]);
        return { total: settings.length, items };
      }
      case 'write-begin':
        if (w) return { base: q.base };
        if (q.base !== fingerprint(this.values))
          return no('other-settings', 'Kar holds other settings by now. Read them again.');
        this.write = { session: Number(q.session), parts: new Map(), answer: null };
        return { base: q.base };
      case 'write-put':
        if (!w) return no('no-write', 'No write is open under this number.');
        if (!w.answer) w.parts.set(Number(q.part), q.items as [string, Value][]);
        return { parts: w.parts.size };
      case 'write-commit':
        if (!w) return no('no-write', 'No write is open under this number.');
        w.answer ??= this.commit(w, q);
        return w.answer ?? no('incomplete', 'Part of the edits is missing. Nothing was written.');
      case 'write-status':
        return {
          state: w ? (w.answer ? 'stored' : 'open') : 'none',
          fingerprint: fingerprint(this.values),
          restartNeeded: false,
        };
      case 'subscribe':
        return this.tell(String(q.group), Number(q.hz), no);
      case 'restart':
        setTimeout(this.restart, 50);
        return {};
      default:
        return no('unknown-request', `Kar has nothing to say to "${q.t}".`);
    }
  }

  /** Commands that act have to come in their order; docs/link.md says how. */
  private isNew(act: unknown): boolean {
    const [key, number] = Array.isArray(act) ? act : [];
    if (key !== this.key || typeof number !== 'number' || number <= this.after) return false;
    this.after = number;
    return true;
  }

  private commit(w: Write, q: Request): Write['answer'] {
    const edits: Values = Object.fromEntries(
      [...w.parts].sort(([a], [b]) => a - b).flatMap(([, items]) => items),
    );
    if (Object.keys(edits).length !== q.count || fingerprint(edits) !== q.sum) return null;
    const refusals = Object.entries(edits).flatMap(([key, value]) => {
      const entry = settings.find((s) => s.key === key);
      return entry
        ? (fault(entry, value) ?? [])
        : [{ key, code: 'unknown-setting', why: `Kar has no ${key}.` }];
    });
    if (refusals.length > 0) return { state: 'refused', refusals };
    Object.assign(this.values, edits);
    return { state: 'storing', refusals };
  }

  private tell(group: string, hz: number, no: Say): object | null {
    const value = telemetry[group];
    if (!value) return no('unknown-group', `Kar tells nothing of "${group}".`);
    clearInterval(this.told.get(group));
    this.told.delete(group);
    if (!(hz > 0)) return { hz: 0 };
    const timer = setInterval(
      () =>
        this.send(
          frameOf({
            t: 'tm',
            g: group,
            n: this.count++,
            at: this.atS,
            v: value(this.atS, this.values['link.name']!),
          }),
        ),
      1000 / Math.min(hz, 100),
    );
    this.told.set(group, timer);
    return { hz };
  }
}
