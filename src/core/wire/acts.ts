/**
 * The order of commands that act: whatever moves, stores, starts or ends something on a board carries a number that grows,
 * and the key of the board's own run. A frame that comes late, or once more, therefore does nothing: neither an old leave
 * to move outputs, nor a move after its stop, nor a write of yesterday.
 */

/** Kinds of requests that carry it. What only reads, or may be done any number of times in any order, does not. */
const actingKinds = [
  'write-begin',
  'write-commit',
  'plan-begin',
  'plan-commit',
  'bench-allow',
  'bench-move',
  'bench-stop',
  'procedure-start',
  'procedure-cancel',
  'restart',
  'log-clear',
  'enter-loader',
  'loader-begin',
  'loader-start',
] as const;

const acting = new Set<string>(actingKinds);
export const isActing = (kind: string): boolean => acting.has(kind);

/** `[key, number]` of a command that acts. */
export type Act = readonly [key: number, number: number];

const MOST = 0xffffffff;

/** A key that no run of a board before is likely to have had. */
export const freshKey = (): number => Math.floor(Math.random() * (MOST + 1));

/** The board's end: which of the commands that come are new. */
export class ActOrder {
  /** Number of the last command that was new. */
  after = 0;

  /** @param key of this run of the board, from its start to its end; 0 to 2^32-1 */
  constructor(readonly key: number) {}

  /** @returns whether it is new; a new one makes every older one late */
  take(act: Act | undefined): boolean {
    if (!act || act[0] !== this.key || act[1] <= this.after) return false;
    this.after = act[1];
    return true;
  }
}

/** The application's end: numbers as the board on the link wants them. */
export class ActNumbers {
  /** null before a board was met; `acts` is undefined for a board that wants no numbers. */
  private met: { readonly key: number | undefined } | null = null;
  private number = 0;

  get known(): boolean {
    return this.met !== null;
  }

  /** What a board says of it when it is met. A number that was used is not used again. */
  learn(acts: { readonly key: number; readonly after: number } | undefined): void {
    // Where the board does not number them, another visit begins elsewhere.
    if (!this.met || this.met.key !== acts?.key) this.number = acts ? 0 : Math.floor(Math.random() * 2 ** 31);
    this.met = { key: acts?.key };
    this.number = Math.max(this.number, acts?.after ?? 0);
  }

  /** The next number; those given to runs and holds, too, are of this order. */
  fresh(): number {
    this.number = Math.min(MOST, this.number + 1);
    return this.number;
  }

  /** The field of a command's frame; a new one with each time that it is sent. */
  field(kind: string): { act?: Act } {
    const key = this.met?.key;
    return key === undefined || !isActing(kind) ? {} : { act: [key, this.fresh()] };
  }
}
