import { isGroup, type Telemetry, type TelemetryGroup } from '#core/wire/telemetry.ts';

/** What a board said of one group at one moment of its own time. */
export interface Sample<G extends TelemetryGroup = TelemetryGroup> {
  /** The board's time since it started, s. */
  readonly atS: number;
  readonly value: Telemetry[G];
}

/** Samples that are kept of a group: ten seconds at 50 Hz. */
const KEPT = 512;
/** Groups of a board's own; one that invents more is not listened to. */
const MOST_OTHERS = 32;

/** A ring of the newest samples of one group, in the order of the board's time. */
class Ring {
  private readonly kept: Sample[] = [];
  private next = 0;

  /** False for one that came late: it was overtaken on the cable. */
  push(sample: Sample): boolean {
    const last = this.newest();
    if (last && sample.atS <= last.atS) return false;
    this.kept[this.next % KEPT] = sample;
    this.next++;
    return true;
  }

  newest(): Sample | null {
    return this.next === 0 ? null : this.kept[(this.next - 1) % KEPT]!;
  }

  /** Those after a moment, oldest first. */
  since(atS: number): Sample[] {
    const found: Sample[] = [];
    for (let k = this.next - 1; k >= Math.max(0, this.next - KEPT); k--) {
      const sample = this.kept[k % KEPT]!;
      if (sample.atS <= atS) break;
      found.push(sample);
    }
    return found.reverse();
  }
}

/**
 * Telemetry as it came, by the board's own time, and not by that of a display: whoever measures or teaches reads from here
 * whatever the screen does meanwhile.
 */
export class Samples {
  private readonly rings = new Map<string, Ring>();
  private readonly others = new Map<string, { readonly value: unknown }>();

  /**
   * @param group a known one with what it says, decoded, or one of the board's own with whatever it says
   * @returns false for a sample that is older than one that is here, or of one group too many
   */
  take(group: string, value: unknown, atS: number): boolean {
    if (!isGroup(group)) {
      if (this.others.size >= MOST_OTHERS && !this.others.has(group)) return false;
      this.others.set(group, { value });
      return true;
    }
    const ring = this.rings.get(group) ?? new Ring();
    this.rings.set(group, ring);
    return ring.push({ atS, value: value as Sample['value'] });
  }

  /** The newest of a group, or null before there is one. */
  newest<G extends TelemetryGroup>(group: G): Sample<G> | null {
    return (this.rings.get(group)?.newest() ?? null) as Sample<G> | null;
  }

  /** Those of a group after a moment of the board's time, oldest first; at most what is kept. */
  since<G extends TelemetryGroup>(group: G, atS: number): readonly Sample<G>[] {
    return (this.rings.get(group)?.since(atS) ?? []) as Sample<G>[];
  }

  /** What the board tells besides the known groups: the newest of each. */
  get ofItsOwn(): ReadonlyMap<string, { readonly value: unknown }> {
    return this.others;
  }

  /** The link is gone, or another board is there: its time begins anew. */
  clear(): void {
    this.rings.clear();
    this.others.clear();
  }
}
