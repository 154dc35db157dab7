import { useEffect, useState } from 'react';
import { type StillTime, StillWatch } from '#core/calibration/stillness.ts';
import type { Triple } from '#core/math/triple.ts';
import type { StreamBlock } from '#link/client.ts';
import { StreamRing, type StreamSink } from '#link/streamRing.ts';
import { boardSession } from '../board/session.ts';
import { useApp } from '../store/store.ts';

/** Names of the streams of a gyro chip. */
const suffix = (chip: 1 | 2) => (chip === 1 ? '' : '-2');

/** How often a craft in hands is looked at, Hz. */
const HELD_HZ = 100;

/** So long after blocks were lost, and no farther from it, it counts as still as it was: s, m/s^2. */
const FORGIVEN_S = 0.8;
const FORGIVEN = 0.3;
const SILENT_MS = 1000;

/** Watches one chip for times in which the craft is held still, by the board's own time. */
export class HeldChip {
  readonly watch = new StillWatch();
  /** Newest mean of a block, m/s^2 and rad/s; null before any came. */
  force: Triple | null = null;
  rate: Triple | null = null;
  newestS = 0;
  private last: StillTime | null = null;
  private heardMs = Number.NEGATIVE_INFINITY;

  readonly accel: StreamSink = {
    push: (block) => {
      this.heardMs = performance.now();
      this.force = meanOf(block);
      const count = block.values.length / 3;
      this.newestS = block.atS + (count - 1) * block.dtS;
      for (let i = 0; i < count; i++) {
        const v = block.values;
        this.watch.push(block.atS + i * block.dtS, [v[3 * i]!, v[3 * i + 1]!, v[3 * i + 2]!], this.rate);
      }
    },
    clear: () => this.clear(),
  };

  readonly gyro: StreamSink = {
    push: (block) => {
      this.rate = meanOf(block);
    },
    clear: () => this.clear(),
  };

  clear(): void {
    this.watch.clear();
    this.last = null;
    this.force = null;
    this.rate = null;
  }

  /** The time it is still for by now; that of a moment ago where blocks were lost since and nothing moved. */
  still(): StillTime | null {
    // A board that fell silent holds nothing still.
    if (performance.now() - this.heardMs > SILENT_MS) return null;
    const now = this.watch.still();
    if (now) this.last = now;
    const { last, force } = this;
    if (now || !last || !force) return now;
    const apart = Math.hypot(...force.map((f, i) => f - last.force[i]!));
    return this.newestS - last.toS < FORGIVEN_S && apart < FORGIVEN ? last : null;
  }
}

function meanOf({ values }: StreamBlock): Triple {
  const n = values.length / 3;
  const mean = (k: number) => {
    let sum = 0;
    for (let i = 0; i < n; i++) sum += values[3 * i + k]!;
    return sum / n;
  };
  return [mean(0), mean(1), mean(2)];
}

/** How many gyro chips the board streams. */
export const useChips = (): 1 | 2 =>
  useApp((s) => (s.board.identity?.can.streams.some((x) => x.source === 'gyro-2') ? 2 : 1));

/** Both chips of the board (the second may be missing) while the component is shown, and why nothing comes. */
export function useHeldChips(): { readonly chips: readonly HeldChip[]; readonly fault: string | null } {
  const count = useChips();
  const ready = useApp((s) => s.board.link === 'ready');
  const [fault, setFault] = useState<string | null>(null);
  const [chips] = useState(() => [new HeldChip(), new HeldChip()]);
  useEffect(() => {
    if (!ready) {
      for (const chip of chips) chip.clear();
      return;
    }
    setFault(null);
    const ends = chips.slice(0, count).flatMap((chip, i) => {
      chip.clear();
      const s = suffix(i === 0 ? 1 : 2);
      return [
        boardSession.watchStream(`gyro${s}`, HELD_HZ, chip.gyro, setFault),
        boardSession.watchStream(`accelerometer${s}`, HELD_HZ, chip.accel, setFault),
      ];
    });
    return () => {
      for (const end of ends) end();
    };
  }, [chips, count, ready]);
  return { chips: chips.slice(0, count), fault };
}

/** A ring that fills with a stream while the component is shown. @param seconds that it holds */
export function useStreamRing(
  source: string,
  hz: number,
  width: number,
  seconds: number,
): { readonly ring: StreamRing; readonly fault: string | null } {
  const ready = useApp((s) => s.board.link === 'ready');
  const has = useApp((s) => s.board.identity?.can.streams.some((x) => x.source === source) ?? false);
  const [fault, setFault] = useState<string | null>(null);
  const [ring, setRing] = useState(() => new StreamRing(width, Math.ceil(hz * seconds)));
  useEffect(() => {
    if (!ready || !has) return;
    const fresh = new StreamRing(width, Math.ceil(hz * seconds));
    setRing(fresh);
    setFault(null);
    return boardSession.watchStream(source, hz, fresh, setFault);
  }, [ready, has, source, hz, width, seconds]);
  const lacking =
    ready && !has
      ? `The firmware of this board does not tell what its ${source} says. From Pfad 3.2 it does: put that on it under Build, Firmware.`
      : null;
  return { ring, fault: fault ?? lacking };
}
