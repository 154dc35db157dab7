import type { ImageInfo } from '#core/formats/firmwareImage.ts';
import { LinkError } from '#link/client.ts';
import { flashImage } from '#link/flash.ts';
import { boardSession } from '../board/session.ts';
import { exportHistory, keep, loadHistory } from '../history.ts';
import { waitingFor } from '../store/boardSlice.ts';
import { store } from '../store/store.ts';
import { prepareReturn, recallReturning, waitToReturn } from './bringBack.ts';
import { change, faultText, imageBytes, letGoOfImage, now, recallImage, remember } from './imageInHand.ts';

/** The walk that puts a firmware on a board: backed up, written, verified, started; interrupted, it goes on. */

/** Serial of the board that the walk is about: no other is ever written to because that one went away. */
let walkSerial: string | null = null;
/** The board has read back what was written in this walk and found it right. */
let verified = false;

/**
 * A board was met. Another than before begins anew; after a reload, the image that it waits for and settings that
 * wait to be brought back are looked up.
 */
export async function recallWalk(): Promise<void> {
  const { board } = store.getState();
  const serial = board.identity?.serial ?? null;
  if (walkSerial !== null && serial !== walkSerial && !underWay()) {
    letGoOfImage();
    change({ report: null, back: { kind: 'idle' } });
  }
  if (!underWay()) walkSerial = serial;
  if (board.link === 'loader' && board.loader?.plan && !board.loader.verified && imageBytes() === null) {
    await recallImage(board.loader.plan.crc, board.identity?.target);
  }
  await recallReturning();
}

/** What keeps the walk from beginning, as a sentence; null when it may begin. */
export function whyNotFlash(): string | null {
  const { board, history, firmware } = store.getState();
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
export async function flash(): Promise<void> {
  if (whyNotFlash() !== null || underWay()) return;
  walkSerial = store.getState().board.identity!.serial;
  verified = false;
  try {
    if (store.getState().board.link === 'ready') {
      change({ run: { kind: 'backing-up' }, report: null, back: { kind: 'idle' } });
      await backUp();
      change({ run: { kind: 'entering' } });
      await leaveFor('loader', 'the board, which goes into its loader', 'enter-loader');
    }
    await writeImageInHand();
  } catch (error) {
    stopped(error);
  }
}

/** Whether the walk is between its first and last step, and must not be begun again. */
function underWay(): boolean {
  return !['idle', 'runs', 'failed', 'interrupted'].includes(now().run.kind);
}

async function backUp(): Promise<void> {
  const { board } = store.getState();
  const { snapshot, lasts } = await keep('before-flashing', board.identity!, boardSession.holds());
  if (!lasts) await exportHistory([snapshot]);
  // A board on its defaults, whose settings still wait to come back, has none worth coming back instead.
  if (board.identity!.note === undefined || now().returning?.serial !== snapshot.serial)
    await waitToReturn({ serial: snapshot.serial, snapshot: snapshot.id });
}

/** Shown no more often than this, ms; the rate is told after so much time. */
const SHOWN_EVERY_MS = 100;
const RATE_AFTER_MS = 600;

async function writeImageInHand(): Promise<void> {
  const { inHand, wipe } = now();
  const image = imageBytes();
  if (!inHand || !image) throw new Error('Choose a firmware first.');
  const { board, history } = store.getState();
  const serial = board.identity!.serial;
  // A board that came up in its loader tells no settings; the newest that were kept of it are to come back.
  if (now().returning?.serial !== serial) {
    await loadHistory();
    const last = [...history.snapshots]
      .filter((s) => s.serial === serial)
      .sort((a, b) => b.lastAt.localeCompare(a.lastAt))[0];
    await waitToReturn(last ? { serial, snapshot: last.id } : null);
  }
  let began: { atMs: number; done: number } | null = null;
  let shown = 0;
  change({ run: { kind: 'flashing', doing: 'erasing', done: 0, of: 1, rate: null } });
  await flashImage(boardSession.openLink(), image, inHand.info, wipe, (p) => {
    const at = performance.now();
    if (p.doing === 'writing') began ??= { atMs: at, done: p.done };
    if (at - shown < SHOWN_EVERY_MS && p.doing === (now().run as { doing?: string }).doing) return;
    shown = at;
    const ran = began === null ? 0 : at - began.atMs;
    const rate = began !== null && ran > RATE_AFTER_MS ? (1000 * (p.done - began.done)) / ran : null;
    change({ run: { kind: 'flashing', ...p, rate: p.doing === 'writing' ? rate : null } });
  });
  verified = true;
  change({ run: { kind: 'starting' } });
  await leaveFor('ready', 'the board, which starts its new firmware', 'loader-start');
  await listen(inHand.info);
}

/** The board runs what was written, and has said who answers on its buses. */
async function listen(info: ImageInfo): Promise<void> {
  const { identity } = store.getState().board;
  if (identity?.version !== info.version)
    throw new Error(
      `The board came back with ${identity?.firmware} ${identity?.version}, not with ${info.version}.`,
    );
  change({ run: { kind: 'listening' } });
  await until(
    () => store.getState().board.selfTest?.settled === true,
    'The board does not tell who answers.',
  );
  change({ run: { kind: 'runs' } });
  void remember('in hand', null);
  await prepareReturn();
}

/** Starts the firmware that is on a board in its loader. */
export async function startFirmware(): Promise<void> {
  try {
    await leaveFor('ready', 'the board, which starts its firmware', 'loader-start');
    if (now().returning) await prepareReturn();
  } catch (error) {
    change({ run: { kind: 'failed', why: faultText(error) } });
  }
}

/** Asks the board to restart into something, and waits until it is met there. */
async function leaveFor(
  link: 'ready' | 'loader',
  words: string,
  kind: 'enter-loader' | 'loader-start',
): Promise<void> {
  store.dispatch(waitingFor(words));
  const before = boardSession.openLink();
  try {
    await before.request(kind, {});
  } catch (error) {
    // The link may close before its answer is here.
    if (!(error instanceof LinkError) || error.fault !== 'closed') {
      store.dispatch(waitingFor(null));
      throw error;
    }
  }
  try {
    await until(
      () => store.getState().board.link === link && before !== openLinkOrNull(),
      `The wait for ${words}, was too long. Take its power away and give it back; what was written stays.`,
    );
  } finally {
    store.dispatch(waitingFor(null));
  }
}

function openLinkOrNull() {
  try {
    return boardSession.openLink();
  } catch {
    return null;
  }
}

const WAIT_MS = 15_000;

/** Waits until something is so. @throws Error with the sentence when it takes too long, or the cable is out */
function until(so: () => boolean, why: string): Promise<void> {
  return new Promise((resolve, reject) => {
    const done = (error?: Error) => {
      clearTimeout(timer);
      stop();
      if (error) reject(error);
      else resolve();
    };
    const timer = setTimeout(() => done(new LinkError('silent', why)), WAIT_MS);
    const stop = store.subscribe(() => so() && done());
    if (so()) done();
  });
}

/** What is written stays; what kind of stop it is decides how it goes on. */
function stopped(error: unknown): void {
  // A board that fell silent with its link still up does not come back by itself: the person begins again.
  const up = ['ready', 'loader'].includes(store.getState().board.link);
  const gone = error instanceof LinkError && (error.fault === 'closed' || (error.fault === 'silent' && !up));
  change({
    run: gone ? { kind: 'interrupted', why: faultText(error) } : { kind: 'failed', why: faultText(error) },
  });
  if (gone) goOnWhenBack();
}

/** An interrupted walk goes on when the board is met again, in whatever state that is. */
function goOnWhenBack(): void {
  const stop = store.subscribe(() => {
    const { board, firmware } = store.getState();
    if (firmware.run.kind !== 'interrupted') {
      stop();
      return;
    }
    if (board.identity?.serial !== walkSerial || openLinkOrNull() === null) return;
    if (board.link === 'loader' && whyNotFlash() === null) {
      stop();
      void flash();
    } else if (board.link === 'ready') {
      stop();
      const info = firmware.inHand?.info;
      if (verified && info && board.identity?.version === info.version) void listen(info).catch(stopped);
      else
        change({
          run: {
            kind: 'failed',
            why: 'The board runs its firmware again: nothing on it was erased. Begin once more.',
          },
        });
    }
  });
}
