import type { Values } from '#core/settings/catalogue.ts';
import { type LinkClient, LinkError } from '#link/client.ts';
import { procedureBegun, procedureTold, type RunningProcedure } from '../store/procedureSlice.ts';
import type { SessionParts } from './BoardSession.ts';

/** What is done with what a procedure found. @returns a sentence for a person */
export type Lesson = (asked: Values, found: Values) => string;

export interface RunnerParts {
  readonly store: SessionParts['store'];
  readonly clock: SessionParts['clock'];
  /** The link as it is now. @throws Error with a sentence when there is none */
  readonly link: () => LinkClient;
  /** By kind of procedure. */
  readonly lessons: Readonly<Record<string, Lesson>>;
}

const LOOK_EVERY_MS = 100;
/** How long a link may be away before its procedure is given up, in looks. */
const AWAY_LOOKS = 300;

/**
 * Has the board do something that takes a while and follows it to its end, wherever the person goes meanwhile: the state is
 * in the store, the work is the board's. It survives a cable that comes out, as the board goes on by itself.
 */
export class ProcedureRunner {
  /** Number of the newest, as the board has it; 0 before there is one. */
  private run = 0;

  constructor(private readonly parts: RunnerParts) {}

  /** Begins one; the one before ends. Resolves when it has ended. */
  async begin(kind: string, asked: Values): Promise<void> {
    const link = this.linkNow();
    const run = link instanceof Error ? 0 : link.acts.fresh();
    this.run = run;
    this.parts.store.dispatch(procedureBegun({ run, kind, asked }));
    try {
      if (link instanceof Error) throw link;
      await link.request('procedure-start', { run, kind, with: asked });
      await this.follow(run, kind, asked);
    } catch (error) {
      this.tell(run, 'failed', (error as Error).message);
    }
  }

  private linkNow(): LinkClient | Error {
    try {
      return this.parts.link();
    } catch (error) {
      return error as Error;
    }
  }

  /** Calls off the one that runs. */
  async cancel(): Promise<void> {
    const { run } = this;
    this.tell(run, 'cancelled', '');
    try {
      await this.parts.link().request('procedure-cancel', { run });
    } catch {
      // Without a link there is nobody to tell; the board ends it by its own time.
    }
  }

  /** Whether it is still the newest and not called off. */
  private stands(run: number): boolean {
    const { newest } = this.parts.store.getState().procedure;
    return newest?.run === run && (newest.state === 'running' || newest.state === 'away');
  }

  private tell(run: number, state: RunningProcedure['state'], says: string): void {
    this.parts.store.dispatch(procedureTold({ run, state, says }));
  }

  private async follow(run: number, kind: string, asked: Values): Promise<void> {
    let away = 0;
    while (this.stands(run)) {
      await this.parts.clock.pause(LOOK_EVERY_MS);
      const report = await this.look(run);
      if (!this.stands(run)) return;
      if (report === null) {
        if (++away > AWAY_LOOKS)
          return this.tell(
            run,
            'failed',
            'The link went away in the middle and did not come back. Ask again.',
          );
        this.tell(run, 'away', 'The link is away; the board goes on by itself.');
        continue;
      }
      away = 0;
      const { state, says, progress } = report;
      if (state === 'none')
        return this.tell(
          run,
          'failed',
          'The board restarted in the middle and knows nothing of it. Ask again.',
        );
      if (state === 'done') {
        const came = this.parts.lessons[kind]?.(asked, report.result) ?? says;
        this.parts.store.dispatch(procedureTold({ run, state, says: came, progress: 1 }));
        return;
      }
      this.parts.store.dispatch(procedureTold({ run, state, says, progress }));
    }
  }

  /** What the board says of it; null while the link is away. @throws LinkError when the board refuses to say */
  private async look(run: number) {
    try {
      return await this.parts.link().request('procedure-state', { run });
    } catch (error) {
      if (error instanceof LinkError && (error.fault === 'refused' || error.fault === 'garbled')) throw error;
      return null;
    }
  }
}
