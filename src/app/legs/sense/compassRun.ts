import { useEffect, useState } from 'react';
import type { FieldSample } from '#core/calibration/compassFit.ts';
import { norm, type Triple } from '#core/math/triple.ts';
import type { StreamBlock } from '#link/client.ts';
import { boardSession } from '../../board/session.ts';
import { useApp } from '../../store/store.ts';

const HZ = 50;
/** Samples that lie nearer together than this say nothing more, uT. */
const APART_UT = 1.5;
const MOST = 1600;
/** A run-up is looked at ten times a second. */
const PAIR_S = 0.1;
const MOST_PAIRS = 1200;

/** What a compass says while its craft is turned, and while its motors run. */
export class CompassRun {
  samples: FieldSample[] = [];
  /** The field as the compass says it now, uT; null before any came. */
  now: Triple | null = null;
  /** Field and raw current at the same moments, of a run-up. */
  pairs: { readonly field: Triple; readonly amps: number }[] = [];
  /** A run-up is taken while it is so. */
  running = false;
  private force: Triple | null = null;
  private amps = Number.NaN;
  private pairS = Number.NEGATIVE_INFINITY;

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
      this.amps = block.values.at(-1)!;
    },
    clear: () => {
      this.amps = Number.NaN;
    },
  };

  private fields(block: StreamBlock): void {
    const n = block.values.length / 3;
    for (let i = 0; i < n; i++) {
      const field: Triple = [block.values[3 * i]!, block.values[3 * i + 1]!, block.values[3 * i + 2]!];
      this.now = field;
      const atS = block.atS + i * block.dtS;
      if (this.running) {
        if (atS - this.pairS < PAIR_S && atS >= this.pairS) continue;
        this.pairS = atS;
        if (Number.isFinite(this.amps) && this.pairs.length < MOST_PAIRS)
          this.pairs.push({ field, amps: this.amps });
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

  begin(): void {
    this.samples = [];
  }
}

function last({ values }: StreamBlock): Triple {
  const at = values.length - 3;
  return [values[at]!, values[at + 1]!, values[at + 2]!];
}

/** Watches a compass while the component is shown, and says why nothing comes. */
export function useCompassRun(fitted: boolean): { readonly run: CompassRun; readonly fault: string | null } {
  const ready = useApp((s) => s.board.link === 'ready');
  const [run] = useState(() => new CompassRun());
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    if (!ready || !fitted) return;
    setFault(null);
    const ends = [
      boardSession.watchStream('compass', HZ, run.compass, setFault),
      boardSession.watchStream('accelerometer', HZ, run.accelerometer, setFault),
      boardSession.watchStream('battery', HZ, run.battery, setFault),
    ];
    return () => {
      for (const end of ends) end();
    };
  }, [ready, fitted, run]);
  return { run, fault };
}
