import { transfer } from 'comlink';
import * as z from 'zod';
import type { ImageInfo } from '#core/formats/firmwareImage.ts';
import {
  MAX_IMAGE_BYTES,
  type Release,
  type ReleaseImage,
  releaseCatalogueSchema,
} from '#core/formats/releases.ts';
import { sameValue } from '#core/settings/catalogue.ts';
import { LinkError } from '#link/client.ts';
import { flashImage } from '#link/flash.ts';
import { boardHolds, openLink, writeOwn } from './boardSession.ts';
import { contentOf, exportHistory, keep, loadHistory } from './history.ts';
import { waitingFor } from './store/boardSlice.ts';
import { openStore } from './store/database.ts';
import { type FirmwareState, firmwareChanged, type Returning } from './store/firmwareSlice.ts';
import { store } from './store/store.ts';
import { workshop } from './workers/index.ts';

/** The walk that puts a firmware on a board: fetched, looked at, backed up, written, verified, started, settings back. */

const change = (c: Partial<FirmwareState>) => void store.dispatch(firmwareChanged(c));
const now = () => store.getState().firmware;
const faultText = (error: unknown) => (error instanceof Error ? error.message : String(error));

/** What is to be written; too large for the store. */
let bytes: Uint8Array | null = null;
/** Serial of the board that the walk is about: no other is ever written to because that one went away. */
let walkSerial: string | null = null;

// ---- What there is ----

const FETCH_LIMIT_MS = 8000;

/** Asks the release service what there is, or takes what it said the last time. */
export async function loadReleases(): Promise<void> {
  if (now().catalogue && !now().cached) return;
  try {
    const answer = await fetch('/releases/catalogue.json', { signal: AbortSignal.timeout(FETCH_LIMIT_MS) });
    if (!answer.ok) throw new Error(`it answered ${answer.status}`);
    const catalogue = releaseCatalogueSchema.parse(await answer.json());
    change({ catalogue, cached: false, fault: null });
    await remember('catalogue', catalogue);
  } catch {
    const kept = releaseCatalogueSchema.safeParse(await recall('catalogue'));
    if (kept.success) change({ catalogue: kept.data, cached: true });
    else
      change({
        fault:
          'The release service does not answer, and nothing was fetched from it before. An image from a file works as well.',
      });
  }
}

async function remember(key: string, value: unknown): Promise<void> {
  try {
    await (await openStore()).put('firmware', value, key);
  } catch {
    // Then it is fetched again the next time.
  }
}

async function recall(key: string): Promise<unknown> {
  try {
    return await (await openStore()).get('firmware', key);
  } catch {
    return undefined;
  }
}

async function sha256(data: Uint8Array<ArrayBuffer>): Promise<string> {
  const digest = new Uint8Array(await crypto.subtle.digest('SHA-256', data));
  return [...digest].map((b) => b.toString(16).padStart(2, '0')).join('');
}

/** Fetches an image, checks that it is the one of the catalogue, and takes it in hand. */
export async function chooseRelease(release: Release, image: ReleaseImage): Promise<void> {
  const name = `${release.product} ${release.version}`;
  change({ fetching: name, fault: null });
  try {
    let file = await recall(image.sha256);
    if (!(file instanceof Uint8Array)) {
      const answer = await fetch(`/releases/${image.file}`, {
        signal: AbortSignal.timeout(4 * FETCH_LIMIT_MS),
      });
      if (!answer.ok) throw new Error(`${name} could not be fetched: the service answered ${answer.status}.`);
      file = new Uint8Array(await answer.arrayBuffer());
    }
    const whole = new Uint8Array(file as Uint8Array<ArrayBuffer>);
    if (whole.length !== image.size || (await sha256(whole)) !== image.sha256)
      throw new Error(
        `What came for ${name} is not what the catalogue says: its SHA-256 differs. It was thrown away; fetch it again.`,
      );
    await remember(image.sha256, whole);
    await takeInHand(name, whole, image.target);
  } catch (error) {
    const lost = error instanceof TypeError || (error as Error).name === 'TimeoutError';
    change({
      fault: lost ? `${name} is not in this browser yet, and the service does not answer.` : faultText(error),
    });
  }
  change({ fetching: null });
}

/** Takes an image from a file in hand. Anything wrong with it is said, with its line. */
export async function chooseFile(file: File): Promise<void> {
  if (file.size > MAX_IMAGE_BYTES) {
    change({ fault: `${file.name} has more than ${MAX_IMAGE_BYTES / 1e6} MB; no board here takes so much.` });
    return;
  }
  change({ fetching: file.name, fault: null });
  const { identity } = store.getState().board;
  try {
    await takeInHand(file.name, new Uint8Array(await file.arrayBuffer()), identity?.target);
  } catch (error) {
    change({ fault: faultText(error) });
  }
  change({ fetching: null });
}

async function takeInHand(name: string, hex: Uint8Array<ArrayBuffer>, target?: string): Promise<void> {
  const copy = hex.slice();
  const looked = await workshop().inspect(transfer(copy, [copy.buffer]), target);
  if (!looked.ok) {
    const line = looked.line > 0 && !looked.why.startsWith('Line') ? `Line ${looked.line}: ` : '';
    change({ fault: `${name} cannot be used. ${line}${looked.why} Nothing was erased.` });
    return;
  }
  bytes = looked.bytes;
  const { run } = now();
  change({
    inHand: { name, info: looked.info },
    ...(run.kind === 'runs' || run.kind === 'failed' ? { run: { kind: 'idle' } } : {}),
  });
  // A tab that is closed in the middle can go on with it.
  await remember('in hand', { name, hex });
}

export function letGoOfImage(): void {
  bytes = null;
  change({ inHand: null, run: { kind: 'idle' } });
}

const inHandSchema = z.object({ name: z.string(), hex: z.instanceof(Uint8Array<ArrayBuffer>) });

/**
 * A board was met. Another than before begins anew; after a reload, the image that it waits for and settings that
 * wait to be brought back are looked up.
 */
export async function recallWalk(): Promise<void> {
  const { board } = store.getState();
  const serial = board.identity?.serial ?? null;
  if (walkSerial !== null && serial !== walkSerial && !underWay()) {
    bytes = null;
    change({ inHand: null, run: { kind: 'idle' }, report: null, back: { kind: 'idle' } });
  }
  if (!underWay()) walkSerial = serial;
  if (board.link === 'loader' && board.loader?.plan && !board.loader.verified && bytes === null) {
    const kept = inHandSchema.safeParse(await recall('in hand'));
    if (kept.success) await takeInHand(kept.data.name, kept.data.hex, board.identity?.target);
    if (now().inHand?.info.crc !== board.loader.plan.crc) letGoOfImage();
  }
  if (now().returning === null) {
    const kept = z.object({ serial: z.string(), snapshot: z.string() }).safeParse(await recall('returning'));
    if (kept.success) change({ returning: kept.data });
  }
}

// ---- The walk ----

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
  const { snapshot, lasts } = await keep('before-flashing', board.identity!, boardHolds());
  if (!lasts) await exportHistory([snapshot]);
  await waitToReturn({ serial: snapshot.serial, snapshot: snapshot.id });
}

async function waitToReturn(returning: Returning | null): Promise<void> {
  change({ returning });
  await remember('returning', returning);
}

/** Shown no more often than this, ms; the rate is told after so much time. */
const SHOWN_EVERY_MS = 100;
const RATE_AFTER_MS = 600;

async function writeImageInHand(): Promise<void> {
  const { inHand, wipe } = now();
  const image = bytes;
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
  await flashImage(openLink(), image, inHand.info, wipe, (p) => {
    const at = performance.now();
    if (p.doing === 'writing') began ??= { atMs: at, done: p.done };
    if (at - shown < SHOWN_EVERY_MS && p.doing === (now().run as { doing?: string }).doing) return;
    shown = at;
    const ran = began === null ? 0 : at - began.atMs;
    const rate = began !== null && ran > RATE_AFTER_MS ? (1000 * (p.done - began.done)) / ran : null;
    change({ run: { kind: 'flashing', ...p, rate: p.doing === 'writing' ? rate : null } });
  });
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
  const before = openLink();
  try {
    await before.request(kind, {});
  } catch (error) {
    // The link may close before its answer is here.
    if (!(error instanceof LinkError) || error.fault !== 'closed') {
      store.dispatch(waitingFor(null));
      throw error;
    }
  }
  await until(
    () => store.getState().board.link === link && before !== openLinkOrNull(),
    `Still waiting for ${words}. Take its power away and give it back; what was written stays.`,
  );
}

function openLinkOrNull() {
  try {
    return openLink();
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
  const gone = error instanceof LinkError && (error.fault === 'closed' || error.fault === 'silent');
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
    if (board.identity?.serial !== walkSerial) return;
    if (board.link === 'loader' && whyNotFlash() === null) {
      stop();
      void flash();
    } else if (board.link === 'ready') {
      stop();
      const info = firmware.inHand?.info;
      if (info && board.identity?.version === info.version && firmware.returning)
        void listen(info).catch(stopped);
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

// ---- Settings back ----

/** Works out what the kept settings are under the firmware that runs now. */
export async function prepareReturn(chosen: Readonly<Record<string, number>> = {}): Promise<void> {
  const { board, history } = store.getState();
  const { returning } = now();
  const { identity } = board;
  if (!returning || identity?.serial !== returning.serial) return;
  const snapshot = history.snapshots.find((s) => s.id === returning.snapshot);
  const values = await contentOf(returning.snapshot);
  if (!snapshot || !values) {
    change({
      back: { kind: 'failed', why: 'The settings that were kept of it are not in this browser any more.' },
    });
    return;
  }
  const report = await workshop().carry(values, snapshot.version, identity.version, chosen);
  if (!report) {
    const why = `There is no table that leads from ${snapshot.version} to ${identity.version}; the settings stay under What was kept.`;
    change({ back: { kind: 'failed', why } });
    return;
  }
  change({ report });
  const holds = boardHolds();
  // The same version with its settings kept has nothing to bring back.
  if (Object.entries(report.values).every(([k, v]) => sameValue(holds[k], v))) {
    await waitToReturn(null);
    change({ report: null, back: { kind: 'done', count: 0 } });
  }
}

/** The person took the report: what differs is written, and counts once the board has read it back. */
export async function bringBack(): Promise<void> {
  const { report } = now();
  if (!report || now().back.kind === 'writing') return;
  change({ back: { kind: 'writing' } });
  try {
    const holds = boardHolds();
    const edits = Object.fromEntries(
      Object.entries(report.values).filter(([k, v]) => !sameValue(holds[k], v)),
    );
    await writeOwn(edits);
    await waitToReturn(null);
    change({ report: null, back: { kind: 'done', count: Object.keys(edits).length } });
  } catch (error) {
    change({ back: { kind: 'failed', why: faultText(error) } });
  }
}

/** The person leaves the board on its defaults; what was kept stays kept. */
export async function leaveAsItIs(): Promise<void> {
  await waitToReturn(null);
  change({ report: null, back: { kind: 'idle' } });
}
