import {
  type GestureId,
  GestureWatch,
  gestureEdits,
  gestures,
  type StickPlaces,
} from '#core/byHand/gestures.ts';
import { type MenuKey, menuLines, menuStep } from '#core/byHand/menu.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { FlightController } from './flightController.ts';
import type { CommitResult } from './pfad.ts';

const EVERY_S = 0.02;
/** A stick is pushed beyond this, and counts again once it came back within that, share. */
const PUSHED = 0.7;
const LET_GO = 0.35;
/** A menu that nobody touches goes away, s. */
const IDLE_S = 30;
const REST: StickPlaces = { throttle: 1, yaw: 0, roll: 0, pitch: 0 };

/** What the board does for it. */
export interface HandParts {
  /** As they are stored. */
  readonly values: Values;
  /** Stores edits, or says why not. */
  readonly commit: (edits: Values) => CommitResult;
  readonly call: () => void;
}

/** Gestures of the sticks and the menu over the picture, on the ground: what they change is stored as whatever is written over the link. */
export class ByHand {
  private readonly watch = new GestureWatch();
  /** Line of the menu that it stands at; below nought while there is none. */
  private menuAt = -1;
  private pushed = true;
  private idleS = 0;
  private dueS = 0;

  /** The menu over the picture, as lines; null while there is none. */
  linesOver(values: Values): readonly string[] | null {
    return this.menuAt < 0 ? null : menuLines(values, this.menuAt);
  }

  step(c: FlightController, dt: number, parts: HandParts): void {
    this.dueS -= dt;
    if (this.dueS > 0) return;
    this.dueS += EVERY_S;
    // In the air sticks fly, and nothing else.
    const listens = c.config.gestures && !c.armed && c.linkAlive && !c.input.armWanted;
    if (!listens) this.menuAt = -1;
    if (this.menuAt >= 0) {
      this.inMenu(c, parts);
      return;
    }
    const done = this.watch.step(listens ? c.input.sticks : REST, EVERY_S);
    if (done) this.act(done, c, parts);
  }

  private inMenu(c: FlightController, parts: HandParts): void {
    this.idleS += EVERY_S;
    const { roll, pitch } = c.input.sticks;
    const far = Math.max(Math.abs(roll), Math.abs(pitch));
    if (far < LET_GO) this.pushed = false;
    if (this.idleS > IDLE_S) this.menuAt = -1;
    if (this.pushed || far < PUSHED) return;
    this.pushed = true;
    this.idleS = 0;
    const along: MenuKey = pitch > 0 ? 'down' : 'up';
    const across: MenuKey = roll > 0 ? 'right' : 'left';
    const { at, edits, leave } = menuStep(
      parts.values,
      this.menuAt,
      Math.abs(pitch) > Math.abs(roll) ? along : across,
    );
    this.menuAt = leave ? -1 : at;
    if (Object.keys(edits).length > 0) this.store('menu', edits, c, parts);
    // The sticks that were in it make no gesture of what comes next.
    if (leave) this.watch.step(REST, EVERY_S);
  }

  private act(id: GestureId, c: FlightController, parts: HandParts): void {
    const { name } = gestures.find((g) => g.id === id)!;
    const say = (text: string) => c.journal.say(c.uptimeS, text);
    if (id === 'menu') {
      this.menuAt = 0;
      this.pushed = true;
      this.idleS = 0;
      return;
    }
    if (id === 'call') {
      parts.call();
      say('By stick: it calls.');
      return;
    }
    const edits = gestureEdits(id, parts.values);
    if (Object.entries(edits).every(([key, value]) => parts.values[key] === value))
      say(`By stick: ${name.toLowerCase()} goes no farther.`);
    else this.store(name.toLowerCase(), edits, c, parts);
  }

  private store(what: string, edits: Values, c: FlightController, { commit }: HandParts): void {
    const { state, refusals } = commit(edits);
    const now = Object.entries(edits)
      .map(([key, value]) => (key === 'set.active' ? `set ${value}` : String(value)))
      .join(', ');
    c.journal.say(
      c.uptimeS,
      state === 'refused'
        ? `By stick: ${what} was refused: ${refusals[0]?.why ?? 'the board does not take it'}`
        : `By stick: ${what} (${now}).`,
    );
  }
}
