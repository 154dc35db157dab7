/** States of a lost link (HANDBOOK, section 3), in the order they are gone through. */
const lostLinkStates = ['fine', 'noticed', 'guarding', 'acting', 'recovering'] as const;
export type LostLinkState = (typeof lostLinkStates)[number];

export interface LostLinkSettings {
  /** Silence before the loss is taken as one, s. */
  readonly noticeAfter: number;
  /** Level flight in the hope that the link comes back, s. */
  readonly guardFor: number;
  /** How long the link must be steady again before sticks count, s. */
  readonly steadyFor: number;
  /** Share of stick travel that counts as "moved". */
  readonly stickMove: number;
}

/** How long `noticed` lasts: one look at where the craft is before it begins to guard. */
const LOOK_S = 0.1;

/**
 * The lost-link states: fine -> noticed -> guarding -> acting -> recovering -> fine. A link that comes back
 * before anything was done is simply fine again.
 */
export class LostLink {
  state: LostLinkState = 'fine';
  private silent = 0;
  private inState = 0;
  private steady = 0;

  constructor(private readonly s: LostLinkSettings) {}

  /**
   * @param linkAlive a good frame arrived lately. @param stickShift greatest stick movement since recovery began, 0..1
   * @param sinceFrame since the last good frame, s: silence counts from there
   */
  step(linkAlive: boolean, stickShift: number, dt: number, sinceFrame = 0): LostLinkState {
    const since = sinceFrame < Number.POSITIVE_INFINITY ? sinceFrame : 0;
    this.silent = linkAlive ? 0 : Math.max(this.silent + dt, since);
    this.steady = linkAlive ? this.steady + dt : 0;
    this.inState += dt;
    switch (this.state) {
      case 'fine':
        if (this.silent >= this.s.noticeAfter) this.enter('noticed');
        break;
      case 'noticed':
        if (linkAlive) this.enter('fine');
        else if (this.inState >= LOOK_S) this.enter('guarding');
        break;
      case 'guarding':
        if (linkAlive) this.enter('fine');
        else if (this.inState >= this.s.guardFor) this.enter('acting');
        break;
      case 'acting':
        if (linkAlive) this.enter('recovering');
        break;
      case 'recovering':
        if (!linkAlive) this.enter('acting');
        else if (this.steady >= this.s.steadyFor && stickShift >= this.s.stickMove) this.enter('fine');
        break;
    }
    return this.state;
  }

  reset(): void {
    this.silent = 0;
    this.steady = 0;
    this.enter('fine');
  }

  private enter(state: LostLinkState): void {
    this.state = state;
    this.inState = 0;
  }
}
