/** One thing the board decided, when, and why, in a sentence. */
export interface Decision {
  readonly atS: number;
  readonly text: string;
}

const KEPT = 200;

/** The board's last decisions, in words. Oldest go first. */
export class Journal {
  readonly decisions: Decision[] = [];
  /** All there ever were: the newest has this number. */
  count = 0;
  /** Told of each decision as it is made. */
  onDecision: ((d: Decision) => void) | null = null;

  say(atS: number, text: string): void {
    const last = this.decisions.at(-1);
    if (last?.text === text && atS - last.atS < 5) return;
    const decision = { atS, text };
    this.decisions.push(decision);
    if (this.decisions.length > KEPT) this.decisions.shift();
    this.count++;
    this.onDecision?.(decision);
  }
}
