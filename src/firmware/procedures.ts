import { StickLearning } from '#core/calibration/stickLearning.ts';
import type { ProcedureReport } from '#core/wire/messages.ts';
import { Refused } from '#core/wire/refusals.ts';
import type { FlightController } from './flightController.ts';

/** What a procedure says after a step. */
type Said = Pick<ProcedureReport, 'state' | 'progress' | 'says'> & Partial<ProcedureReport>;

interface Procedure {
  step(controller: FlightController, dt: number): Said;
}

const failed = (code: string, says: string): Said => ({ state: 'failed', progress: 0, code, says });

/** Who waits longer for a stick has forgotten it, s. */
const STICK_WAITS_S = 30;

/** Which channel a stick moves. */
class LearnStick implements Procedure {
  private readonly learning: StickLearning;
  private waitedS = 0;
  private sinceFrameS = 0;
  private said: Said = { state: 'running', progress: 0, says: 'No stick has moved yet.' };

  constructor(controller: FlightController) {
    this.learning = new StickLearning(controller.input.channels);
  }

  step({ input }: FlightController, dt: number): Said {
    this.waitedS += dt;
    this.sinceFrameS += dt;
    if (!input.linkAlive) return failed('silent', 'The receiver fell silent while a stick was awaited.');
    if (this.waitedS > STICK_WAITS_S)
      return failed('nothing-moved', `No stick was moved to its end within ${STICK_WAITS_S} s.`);
    if (!input.fresh) return this.said;
    const outcome = this.learning.look(input.channels, this.sinceFrameS);
    this.sinceFrameS = 0;
    if (outcome.kind === 'unclear') return failed('unclear', outcome.says);
    if (outcome.kind === 'waiting') {
      const { progress, says } = outcome;
      this.said = { state: 'running', progress, says };
      return this.said;
    }
    const { channel, fromUs, toUs } = outcome;
    return {
      state: 'done',
      progress: 1,
      says: `Channel ${channel} went from ${fromUs.toFixed(0)} to ${toUs.toFixed(0)} µs.`,
      result: { channel, fromUs, toUs },
    };
  }
}

/** Each kind of procedure: begun from what was asked, or refused with the reason. */
const kinds: Readonly<Record<string, (controller: FlightController) => Procedure | Refused>> = {
  'learn-stick': (controller) =>
    controller.input.linkAlive
      ? new LearnStick(controller)
      : new Refused('silent', 'The receiver sends nothing. Switch the transmitter on.'),
};
export const procedureKinds = Object.keys(kinds);

const none: Said = { state: 'none', progress: 0, says: '' };

/**
 * What takes the board a while and is done by it alone: one at a time, under a number that the application chose. Numbers
 * grow, so that a late repeat of an old start begins nothing. It goes on when the cable comes out.
 */
export class Procedures {
  private run = 0;
  private procedure: Procedure | null = null;
  private said: Said = none;

  /** Begins one, which ends the one before; said again, it changes nothing. */
  start(run: number, kind: string, controller: FlightController): object | Refused {
    if (run === this.run) return { run };
    if (run < this.run) return new Refused('run-over', 'Another procedure has begun since.');
    const begin = Object.hasOwn(kinds, kind) ? kinds[kind] : undefined;
    if (!begin) return new Refused('unknown-procedure', `There is no procedure named ${kind}.`);
    if (controller.armed) return new Refused('armed', 'The craft is armed. Nothing is taught while it is.');
    const procedure = begin(controller);
    if (procedure instanceof Refused) return procedure;
    this.run = run;
    this.procedure = procedure;
    this.said = { state: 'running', progress: 0, says: '' };
    return { run };
  }

  /** How far it is, or how it ended. */
  report(run: number): ProcedureReport {
    const said = run === this.run ? this.said : none;
    return { code: '', result: {}, ...said };
  }

  cancel(run: number): ProcedureReport {
    if (run === this.run && this.procedure) {
      this.procedure = null;
      this.said = { state: 'cancelled', progress: this.said.progress, says: 'It was called off.' };
    }
    return this.report(run);
  }

  step(controller: FlightController, dt: number): void {
    if (!this.procedure) return;
    this.said = controller.armed
      ? failed('armed', 'The craft was armed in the middle.')
      : this.procedure.step(controller, dt);
    if (this.said.state !== 'running') this.procedure = null;
  }
}
