import type { FieldSample } from '#core/calibration/compassFit.ts';
import { norm, type Triple } from '#core/math/triple.ts';
import type { StreamBlock } from '#link/client.ts';

/** Samples a second that are asked for. */
export const HZ = 50;
/** Samples that lie nearer together than this say nothing more, uT. */
const APART_UT = 1.5;
const MOST = 1600;
/** A run-up is looked at ten times a second, for two minutes at most. */
const PAIR_S = 0.1;
const MOST_PAIRS = 1200;
/** Field and current belong together that were felt within this, s. */
const TOGETHER_S = 0.012;

/** What a compass says while its craft is turned, and while its motors run. */
export class CompassRun {
  samples: FieldSample[] = [];
  /** The field as the compass says it now, uT; null before any came. */
  now: Triple | null = null;
  /** Of a run-up, each by the board's time. */
  private fieldsRun: { readonly atS: number; readonly field: Triple }[] = [];
  private ampsRun: { readonly atS: number; readonly amps: number }[] = [];
  /** A run-up is taken while it is so. */
  running = false;
  private force: Triple | null = null;
  private fieldS = Number.NEGATIVE_INFINITY;

  readonly compass = {
    push: (block: StreamBlock) => this.fields(block),
    clear: () => {
      this.now = null;
    },
  };
  readonly accelerometer = {
    push: (block: StreamBlock) => {
      this.force = last(block);
    },
    clear: () => {
      this.force = null;
    },
  };
  readonly battery = {
    push: (block: StreamBlock) => {
      if (!this.running || this.ampsRun.length > MOST_PAIRS * HZ * PAIR_S) return;
      for (let i = 0; 2 * i + 1 < block.values.length; i++)
        this.ampsRun.push({ atS: block.atS + i * block.dtS, amps: block.values[2 * i + 1]! });
    },
    clear: () => this.beginRunUp(),
  };

  private fields(block: StreamBlock): void {
    const n = block.values.length / 3;
    for (let i = 0; i < n; i++) {
      const field: Triple = [block.values[3 * i]!, block.values[3 * i + 1]!, block.values[3 * i + 2]!];
      this.now = field;
      const atS = block.atS + i * block.dtS;
      if (this.running) {
        if (atS - this.fieldS < PAIR_S && atS >= this.fieldS) continue;
        this.fieldS = atS;
        if (this.fieldsRun.length < MOST_PAIRS) this.fieldsRun.push({ atS, field });
        continue;
      }
      const before: FieldSample | undefined = this.samples.at(-1);
      const apart = before
        ? norm([field[0] - before.field[0], field[1] - before.field[1], field[2] - before.field[2]])
        : Number.POSITIVE_INFINITY;
      if (apart < APART_UT || this.samples.length >= MOST) continue;
      this.samples.push({ field, force: this.force });
    }
  }

  /** Forgets the last run-up. */
  beginRunUp(): void {
    this.fieldsRun = [];
    this.ampsRun = [];
  }

  /** Moments of the run-up that were taken so far. */
  get moments(): number {
    return this.fieldsRun.length;
  }

  /** Field and raw current of the run-up at the same moments. */
  pairs(): { readonly field: Triple; readonly amps: number }[] {
    const out: { field: Triple; amps: number }[] = [];
    let k = 0;
    for (const { atS, field } of this.fieldsRun) {
      const off = (i: number) => Math.abs(this.ampsRun[i]!.atS - atS);
      while (k + 1 < this.ampsRun.length && off(k + 1) <= off(k)) k++;
      const at = this.ampsRun[k];
      if (at && Math.abs(at.atS - atS) <= TOGETHER_S) out.push({ field, amps: at.amps });
    }
    return out;
  }

  begin(): void {
    this.samples = [];
  }
}

function last({ values }: StreamBlock): Triple {
  const at = values.length - 3;
  return [values[at]!, values[at + 1]!, values[at + 2]!];
}
