import { type ModeId, type ModeView, modeNames, switchedModes, whyNot } from '#core/modes/modes.ts';
import type { Config } from './config.ts';
import type { HandLaunch } from './handLaunch.ts';
import type { PilotInput } from './pilotInput.ts';
import type { RouteFlight } from './routeFlight.ts';
import type { Sanity } from './sanity.ts';

/** What decides the commands of this moment. */
export type Pilot = 'sticks' | 'hold' | 'route' | 'launch' | 'guard' | 'glide' | 'cut' | 'return' | 'nothing';

/** Modes flown by the sticks alone; the others are flown by the autopilot. */
const stickModes: readonly ModeId[] = ['manual', 'rate', 'horizon', 'level'];

export function pilotOf(mode: ModeId): Pilot {
  if (mode === 'launch') return 'launch';
  if (mode === 'return') return 'return';
  if (stickModes.includes(mode)) return 'sticks';
  return mode === 'route' ? 'route' : 'hold';
}

/** What may ask for a mode besides the switches. */
interface Asking {
  readonly sanity: Sanity;
  readonly route: RouteFlight;
  readonly launch: HandLaunch;
}

/** The highest mode that is asked for, by switch or by the board itself, and that can be had. */
export class ModeChoice {
  /** Why the mode that the switches ask for is not flown; null when it is. */
  refusal: string | null = null;
  /** A hand launch is had once a flight. */
  launchUsed = false;
  /** How it is now; put there before each choice. */
  readonly now = { armed: false, flown: false, onRoute: false, canReturn: false };
  /** A route led to a fence, and its switch has been on since. */
  private routeStopped = false;

  constructor(
    private readonly c: Config,
    private readonly input: PilotInput,
    private readonly view: ModeView,
    private readonly asking: Asking,
  ) {}

  /** A flight begins. */
  armed(): void {
    this.launchUsed = false;
  }

  choose(): ModeId {
    const { c, input, now, view } = this;
    const { sanity, route, launch } = this.asking;
    const flying = now.armed && now.flown;
    const mayReturn = flying && now.canReturn;
    if (mayReturn && sanity.battery.low && c.battery.returns) return 'return';
    // A route that led to a fence would lead there again: it is over until its switch has been off.
    if (!input.wants('route')) this.routeStopped = false;
    else if (now.onRoute && sanity.outsideFence) this.routeStopped = true;
    const fenced = flying && (sanity.outsideFence || this.routeStopped);
    if (fenced && mayReturn && c.fence.action === 'return') return 'return';
    if (mayReturn && route.wantsReturn && input.wants('route')) return 'return';
    if (launch.running) return 'launch';
    // Who asks for the way home gets it: nothing else leads back inside.
    const stays = fenced && c.fence.action === 'loiter' && !input.wants('return');
    if (stays && whyNot('loiter', view) === null) return c.rotorcraft ? 'hover' : 'loiter';
    for (let i = switchedModes.length - 1; i >= 0; i--) {
      if (!input.wanted[i]) continue;
      const mode = switchedModes[i]!;
      if (mode === 'launch' && (this.launchUsed || now.flown)) continue;
      if (mode === 'return' && now.armed && !now.flown) {
        this.refusal ??= 'Return home cannot be had: it is not in the air.';
        continue;
      }
      const lost = mode === 'return' && view.position === 'lost';
      const why = lost ? 'Needs a position: there is no fix.' : whyNot(mode, view);
      if (why === null) return mode;
      this.refusal ??= `${modeNames[mode]} cannot be had: ${why}`;
    }
    // Without any switch a craft with rotors still needs its rates; one that asked for more gets Level.
    return this.refusal ? 'level' : c.rotorcraft ? 'rate' : 'manual';
  }
}
