/** What the channels stood at when the question was asked, and the farthest each has gone since. */
export interface StickWatch {
  readonly start: readonly number[];
  readonly farthest: number[];
  settledFor: number;
}

export interface LearntStick {
  /** 1-based. */
  readonly channel: number;
  readonly fromUs: number;
  readonly toUs: number;
}

/** A stick has moved when its channel went at least this far, and every other stayed within a third of it. */
const LEAST_MOVE_US = 250;
const SETTLED_LOOKS = 12;

export function startWatch(channels: readonly number[]): StickWatch {
  return { start: [...channels], farthest: [...channels], settledFor: 0 };
}

/**
 * Looks at the channels once more. The answer comes when one channel alone has clearly moved and has reached
 * its end (no farther for several looks); until then null.
 */
export function learnStick(watch: StickWatch, channels: readonly number[]): LearntStick | null {
  let grew = false;
  for (let i = 0; i < watch.start.length; i++) {
    const now = channels[i] ?? watch.start[i]!;
    if (Math.abs(now - watch.start[i]!) > Math.abs(watch.farthest[i]! - watch.start[i]!) + 3) {
      watch.farthest[i] = now;
      grew = true;
    }
  }
  watch.settledFor = grew ? 0 : watch.settledFor + 1;
  const moves = watch.farthest.map((f, i) => Math.abs(f - watch.start[i]!));
  const most = Math.max(...moves);
  const at = moves.indexOf(most);
  const second = Math.max(0, ...moves.filter((_, i) => i !== at));
  if (most < LEAST_MOVE_US || second > most / 3 || watch.settledFor < SETTLED_LOOKS) return null;
  return { channel: at + 1, fromUs: watch.start[at]!, toUs: watch.farthest[at]! };
}
