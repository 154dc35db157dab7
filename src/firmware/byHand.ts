import { type GestureId, GestureWatch, gestureEdits, gestures } from '#core/byHand/gestures.ts';
import type { Values } from '#core/settings/catalogue.ts';
import type { FlightController } from './flightController.ts';
import type { CommitResult } from './pfad.ts';

const EVERY_S = 0.02;

/** Gestures of the sticks on the ground: what they change is stored as whatever is written over the link. */
export class ByHand {
  readonly watch = new GestureWatch();
  private dueS = 0;

  /** @param commit stores edits, or says why not */
  step(
    c: FlightController,
    dt: number,
    values: Values,
    commit: (edits: Values) => CommitResult,
    call: () => void,
  ): void {
    this.dueS -= dt;
    if (this.dueS > 0) return;
    this.dueS += EVERY_S;
    // In the air sticks fly, and nothing else.
    const idle = { throttle: 1, yaw: 0, roll: 0, pitch: 0 };
    const listens = c.config.gestures && !c.armed && c.linkAlive && !c.input.armWanted;
    const done = this.watch.step(listens ? c.input.sticks : idle, EVERY_S);
    if (done) this.act(done, c, values, commit, call);
  }

  private act(
    id: GestureId,
    c: FlightController,
    values: Values,
    commit: (edits: Values) => CommitResult,
    call: () => void,
  ): void {
    const { name } = gestures.find((g) => g.id === id)!;
    const say = (text: string) => c.journal.say(c.uptimeS, text);
    if (id === 'call') {
      call();
      say('By stick: it calls.');
      return;
    }
    const edits = gestureEdits(id, values);
    const [key] = Object.keys(edits);
    if (key !== undefined && edits[key] === values[key]) {
      say(`By stick: ${name.toLowerCase()} goes no farther.`);
      return;
    }
    const { state, refusals } = commit(edits);
    const now =
      key === undefined ? '' : ` (${key.startsWith('set.') ? `set ${edits[key]}` : `${edits[key]}°`})`;
    say(
      state === 'refused'
        ? `By stick: ${name.toLowerCase()} was refused: ${refusals[0]?.why ?? 'the board does not take it'}`
        : `By stick: ${name.toLowerCase()}${now}.`,
    );
  }
}
