import {
  type PackedPlan,
  packPlan,
  planBytes,
  planFromBytes,
  planPrint,
  unpackPlan,
} from '#core/plan/packPlan.ts';
import { EMPTY_PLAN, type FlightPlan } from '#core/plan/plan.ts';
import { crc32 } from '#core/wire/crc32.ts';
import { Refused } from '#core/wire/refusals.ts';
import { type FlashDevice, FlashPages } from './pages.ts';

/** A plan of the greatest size has well under this many bytes. */
const MOST_BYTES = 15_000;
const PART_BYTES = 4096;

interface Transfer {
  readonly session: number;
  readonly bytes: Uint8Array;
  /** Bytes that are there, one flag each. */
  readonly there: Uint8Array;
  readonly crc: number;
  committed: boolean;
}

/**
 * Route and fences on flash pages of their own, apart from the settings. A plan comes in parts, in any order and as often
 * as they like; it takes the place of the one before once all of it is there, right, stored and read back, or not at all.
 */
export class PlanStore {
  plan: FlightPlan = EMPTY_PLAN;
  print = '';
  private bytes: Uint8Array = planBytes(EMPTY_PLAN);
  private readonly pages: FlashPages<PackedPlan> | null;
  private transfer: Transfer | null = null;
  private pending: FlightPlan | null = null;
  private failed = false;

  /** @param flash null for a board that has no room for plans */
  constructor(flash: FlashDevice | null) {
    this.pages = flash && new FlashPages<PackedPlan>(flash);
    const kept = unpackPlan(this.pages?.load() ?? null);
    if (kept) this.take(kept);
  }

  private take(plan: FlightPlan): void {
    this.plan = plan;
    this.print = planPrint(plan);
    this.bytes = planBytes(plan);
  }

  get storing(): boolean {
    return this.pages?.writing ?? false;
  }

  read(from: number, count: number): { total: number; print: string; bytes: Uint8Array } {
    const part = this.bytes.slice(from, from + Math.min(count, PART_BYTES));
    return { total: this.bytes.length, print: this.print, bytes: part };
  }

  /** @param base print of the plan that is to be replaced, so that nobody writes over one that he has not seen */
  begin(session: number, base: string, size: number, crc: number): object | Refused {
    if (!this.pages) return new Refused('no-room', 'This board has no room for routes and fences.');
    if (this.transfer?.session === session) return {};
    if (base !== this.print)
      return new Refused(
        'other-plan',
        'The board holds another plan than the one that was read from it. Read it again.',
      );
    if (this.storing) return new Refused('storing', 'The board is still storing the plan before.');
    if (size > MOST_BYTES) return new Refused('too-much', 'The plan is larger than a board keeps.');
    this.transfer = {
      session,
      bytes: new Uint8Array(size),
      there: new Uint8Array(size),
      crc,
      committed: false,
    };
    return {};
  }

  put(session: number, at: number, bytes: Uint8Array): object | Refused {
    const t = this.transfer;
    if (t?.session !== session) return new Refused('no-write', 'No plan is being written under this number.');
    if (at + bytes.length > t.bytes.length)
      return new Refused('too-much', 'A part of the plan lies beyond its end.');
    if (!t.committed) {
      t.bytes.set(bytes, at);
      t.there.fill(1, at, at + bytes.length);
    }
    return {};
  }

  /** All of it is there: it is checked, and if it is right it begins to be stored. */
  commit(session: number, armed: boolean): object | Refused {
    const t = this.transfer;
    if (t?.session !== session || !this.pages)
      return new Refused('no-write', 'No plan is being written under this number.');
    if (t.committed) return {};
    if (armed) return new Refused('armed', 'The craft is armed. A plan is written only disarmed.');
    if (t.there.includes(0) || crc32(t.bytes) !== t.crc)
      return new Refused(
        'incomplete',
        'Part of the plan is missing or changed on the way. The plan before stands.',
      );
    const plan = planFromBytes(t.bytes);
    if (!plan)
      return new Refused('no-plan', 'The board does not understand this plan. The plan before stands.');
    t.committed = true;
    this.failed = false;
    this.pending = plan;
    this.pages.begin(packPlan(plan));
    return {};
  }

  status(session: number): { state: 'none' | 'open' | 'storing' | 'stored' | 'failed'; print: string } {
    const t = this.transfer;
    const state =
      t?.session !== session
        ? 'none'
        : !t.committed
          ? 'open'
          : this.storing
            ? 'storing'
            : this.failed
              ? 'failed'
              : 'stored';
    return { state, print: this.print };
  }

  /** Stores up to `count` bytes more. True at the moment when another plan holds. */
  step(count: number): boolean {
    if (!this.pages?.writing) return false;
    const stored = this.pages.step(count);
    if (this.pages.writing) return false;
    const { pending } = this;
    this.pending = null;
    this.failed = !stored;
    if (!stored || !pending) return false;
    this.take(pending);
    return true;
  }
}
