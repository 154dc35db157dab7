import type { ImageInfo } from '#core/formats/firmwareImage.ts';
import type { MigrationReport } from '#core/settings/migration/migrate.ts';
import { LinkError } from '#link/client.ts';
import { flashImage } from '#link/flash.ts';
import { waitingFor } from '../store/boardSlice.ts';
import type { BringingBack } from './BringingBack.ts';
import type { ImageInHand } from './ImageInHand.ts';
import { type FlashParts, faultText, Notebook } from './parts.ts';

/** Shown no more often than this, ms; the rate is told after so much time. */
const SHOWN_EVERY_MS = 100;
const RATE_AFTER_MS = 600;

/** The walk that puts a firmware on a board: backed up, written, verified, started; interrupted, it goes on. */
export class Flashing {
  private readonly notebook: Notebook;
  /** Serial of the board that the walk is about: no other is ever written to because that one went away. */
  private walkSerial: string | null = null;
  /** The board has read back what was written in this walk and found it right. */
  private verified = false;

  constructor(
    private readonly parts: FlashParts,
    private readonly image: ImageInHand,
    private readonly back: BringingBack,
  ) {
    this.notebook = new Notebook(parts);
  }

  /**
   * What would become of every setting of the board on the way to the image in hand, before anything is done to it; null where
   * there is nothing to carry: no board that runs, no image, the same version, or one of which nothing is known.
   */
  async preview(chosen: Readonly<Record<string, number>>): Promise<MigrationReport | null> {
    const { board, firmware, settings } = this.parts.store.getState();
    const [from, to] = [board.identity?.version, firmware.inHand?.info.version];
    if (board.link !== 'ready' || !from || !to || from === to) return null;
    return await this.parts.carry(board.native ?? settings.base, from, to, chosen);
  }

  /** From now on whoever is met is looked at by itself, wherever the person is. @returns ends it */
  watch(): () => void {
    const seen = { met: '', waits: '' };
    const look = () => {
      const { board, firmware } = this.parts.store.getState();
      const { link } = board;
      const serial = board.identity?.serial;
      const met = link === 'loader' || link === 'ready' ? `${link} ${serial}` : '';
      if (met !== seen.met) {
        seen.met = met;
        if (met !== '') void this.recallWalk();
      }
      // After a reload in the middle, or a firmware that was put on elsewhere: settings still wait.
      const { returning, run } = firmware;
      const waits =
        link === 'ready' && returning?.serial === serial && run.kind === 'idle'
          ? (returning?.snapshot ?? '')
          : '';
      if (waits === seen.waits) return;
      seen.waits = waits;
      if (waits !== '') void this.back.prepare();
    };
    look();
    return this.parts.store.subscribe(look);
  }

  /**
   * A board was met. Another than before begins anew; after a reload, the image that it waits for and settings that
   * wait to be brought back are looked up.
   */
  private async recallWalk(): Promise<void> {
    const { board } = this.parts.store.getState();
    const serial = board.identity?.serial ?? null;
    if (this.walkSerial !== null && serial !== this.walkSerial && !this.underWay()) {
      this.image.letGo();
      this.notebook.change({ report: null, back: { kind: 'idle' } });
    }
    if (!this.underWay()) this.walkSerial = serial;
    if (
      board.link === 'loader' &&
      board.loader?.plan &&
      !board.loader.verified &&
      this.image.bytes === null
    ) {
      await this.image.recall(board.loader.plan.crc, board.identity?.target);
    }
    await this.back.recall();
  }

  /** What keeps the walk from beginning, as a sentence; null when it may begin. */
  whyNotFlash(): string | null {
    const { board, history, firmware } = this.parts.store.getState();
    if (!firmware.inHand) return 'Choose a firmware first.';
    if (board.link !== 'ready' && board.link !== 'loader') return 'Plug the board in first.';
    const { target, serial } = board.identity!;
    if (firmware.inHand.info.target !== target)
      return `${firmware.inHand.name} is built for ${firmware.inHand.info.target}; the board on the cable is ${target}.`;
    if (
      board.link === 'loader' &&
      board.loader!.verified &&
      !history.snapshots.some((s) => s.serial === serial)
    )
      return 'This board has a firmware and settings that were never kept here. Start its firmware first, so that they can be.';
    return null;
  }

  /** Begins, or goes on where it stopped. */
  async flash(): Promise<void> {
    if (this.whyNotFlash() !== null || this.underWay()) return;
    this.walkSerial = this.parts.store.getState().board.identity!.serial;
    this.verified = false;
    try {
      if (this.parts.store.getState().board.link === 'ready') {
        this.notebook.change({ run: { kind: 'backing-up' }, report: null, back: { kind: 'idle' } });
        await this.backUp();
        this.notebook.change({ run: { kind: 'entering' } });
        await this.leaveFor('loader', 'the board, which goes into its loader', 'enter-loader');
      }
      await this.writeImageInHand();
    } catch (error) {
      this.stopped(error);
    }
  }

  /** Whether the walk is between its first and last step, and must not be begun again. */
  private underWay(): boolean {
    return !['idle', 'runs', 'failed', 'interrupted'].includes(this.notebook.now.run.kind);
  }

  private async backUp(): Promise<void> {
    const { board } = this.parts.store.getState();
    const { snapshot, lasts } = await this.parts.history.keep(
      'before-flashing',
      board.identity!,
      this.parts.session.holds(),
    );
    if (!lasts) await this.parts.history.exportFile([snapshot]);
    // A board on its defaults, whose settings still wait to come back, has none worth coming back instead.
    if (board.identity!.note === undefined || this.notebook.now.returning?.serial !== snapshot.serial)
      await this.back.wait({ serial: snapshot.serial, snapshot: snapshot.id });
  }

  private async writeImageInHand(): Promise<void> {
    const { inHand, wipe } = this.notebook.now;
    const image = this.image.bytes;
    if (!inHand || !image) throw new Error('Choose a firmware first.');
    const serial = this.parts.store.getState().board.identity!.serial;
    // A board that came up in its loader tells no settings; the newest that were kept of it are to come back.
    if (this.notebook.now.returning?.serial !== serial) {
      await this.parts.history.load();
      const last = [...this.parts.store.getState().history.snapshots]
        .filter((s) => s.serial === serial)
        .sort((a, b) => b.lastAt.localeCompare(a.lastAt))[0];
      await this.back.wait(last ? { serial, snapshot: last.id } : null);
    }
    let began: { atMs: number; done: number } | null = null;
    let shown = 0;
    this.notebook.change({ run: { kind: 'flashing', doing: 'erasing', done: 0, of: 1, rate: null } });
    await flashImage(this.parts.session.openLink(), image, inHand.info, {
      wipe,
      onProgress: (p) => {
        const at = performance.now();
        if (p.doing === 'writing') began ??= { atMs: at, done: p.done };
        if (at - shown < SHOWN_EVERY_MS && p.doing === (this.notebook.now.run as { doing?: string }).doing)
          return;
        shown = at;
        const ran = began === null ? 0 : at - began.atMs;
        const rate = began !== null && ran > RATE_AFTER_MS ? (1000 * (p.done - began.done)) / ran : null;
        this.notebook.change({ run: { kind: 'flashing', ...p, rate: p.doing === 'writing' ? rate : null } });
      },
    });
    this.verified = true;
    this.notebook.change({ run: { kind: 'starting' } });
    await this.leaveFor('ready', 'the board, which starts its new firmware', 'loader-start');
    await this.listen(inHand.info);
  }

  /** The board runs what was written, and has said who answers on its buses. */
  private async listen(info: ImageInfo): Promise<void> {
    const { identity } = this.parts.store.getState().board;
    if (identity?.version !== info.version)
      throw new Error(
        `The board came back with ${identity?.firmware} ${identity?.version}, not with ${info.version}.`,
      );
    this.notebook.change({ run: { kind: 'listening' } });
    await this.until(
      () => this.parts.store.getState().board.selfTest?.settled === true,
      'The board does not tell who answers.',
    );
    this.notebook.change({ run: { kind: 'runs' } });
    void this.notebook.remember('in hand', null);
    await this.back.prepare();
  }

  /** Starts the firmware that is on a board in its loader. */
  async startFirmware(): Promise<void> {
    try {
      await this.leaveFor('ready', 'the board, which starts its firmware', 'loader-start');
      if (this.notebook.now.returning) await this.back.prepare();
    } catch (error) {
      this.notebook.change({ run: { kind: 'failed', why: faultText(error) } });
    }
  }

  /** Asks the board to restart into something, and waits until it is met there. */
  private async leaveFor(
    link: 'ready' | 'loader',
    words: string,
    kind: 'enter-loader' | 'loader-start',
  ): Promise<void> {
    this.parts.store.dispatch(waitingFor(words));
    const before = this.parts.session.openLink();
    try {
      await before.request(kind, {});
    } catch (error) {
      // The link may close before its answer is here.
      if (!(error instanceof LinkError) || error.fault !== 'closed') {
        this.parts.store.dispatch(waitingFor(null));
        throw error;
      }
    }
    try {
      await this.until(
        () => this.parts.store.getState().board.link === link && before !== this.openLinkOrNull(),
        `The wait for ${words}, was too long. Take its power away and give it back; what was written stays.`,
      );
    } finally {
      this.parts.store.dispatch(waitingFor(null));
    }
  }

  private openLinkOrNull() {
    try {
      return this.parts.session.openLink();
    } catch {
      return null;
    }
  }

  /** Waits until something is so. @throws Error with the sentence when it takes too long, or the cable is out */
  private until(so: () => boolean, why: string): Promise<void> {
    return new Promise((resolve, reject) => {
      const done = (error?: Error) => {
        clearTimeout(timer);
        stop();
        if (error) reject(error);
        else resolve();
      };
      const timer = setTimeout(() => done(new LinkError('silent', why)), this.parts.waitMs);
      const stop = this.parts.store.subscribe(() => so() && done());
      if (so()) done();
    });
  }

  /** What is written stays; what kind of stop it is decides how it goes on. */
  private stopped(error: unknown): void {
    // A board that fell silent with its link still up does not come back by itself: the person begins again.
    const up = ['ready', 'loader'].includes(this.parts.store.getState().board.link);
    const gone =
      error instanceof LinkError && (error.fault === 'closed' || (error.fault === 'silent' && !up));
    this.notebook.change({
      run: gone ? { kind: 'interrupted', why: faultText(error) } : { kind: 'failed', why: faultText(error) },
    });
    if (gone) this.goOnWhenBack();
  }

  /** An interrupted walk goes on when the board is met again, in whatever state that is. */
  private goOnWhenBack(): void {
    const stop = this.parts.store.subscribe(() => {
      const { board, firmware } = this.parts.store.getState();
      if (firmware.run.kind !== 'interrupted') {
        stop();
        return;
      }
      if (board.identity?.serial !== this.walkSerial || this.openLinkOrNull() === null) return;
      if (board.link === 'loader' && this.whyNotFlash() === null) {
        stop();
        void this.flash();
      } else if (board.link === 'ready') {
        stop();
        const info = firmware.inHand?.info;
        if (this.verified && info && board.identity?.version === info.version)
          void this.listen(info).catch((error) => this.stopped(error));
        else
          this.notebook.change({
            run: {
              kind: 'failed',
              why: 'The board runs its firmware again: nothing on it was erased. Begin once more.',
            },
          });
      }
    });
  }
}
