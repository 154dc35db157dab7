import { EMPTY_BOOK } from '#core/field/fieldBook.ts';
import { signOffOf, withFlight } from '#core/field/signOff.ts';
import { MOST_FLOWN_BYTES } from '#core/flown/flown.ts';
import { boardSession } from '../board/session.ts';
import { fieldBookChanged } from '../store/craftSlice.ts';
import { rows } from '../store/database.ts';
import { store } from '../store/store.ts';
import type { FlownBy, LookedAt } from '../workers/flown.ts';
import { workshop } from '../workers/index.ts';
import { FlightReader } from './FlightReader.ts';
import { fileLogId, type KeptLog, LogShelf } from './LogShelf.ts';

const shelf = new LogShelf(rows);
const now = () => new Date().toISOString();

/** What flights of the open craft are judged against; null while none is open. */
function judgedBy(): FlownBy | null {
  const { craft, site, ui } = store.getState();
  if (!craft.file || !craft.airframe || !site.current) return null;
  return { airframe: craft.airframe, plan: craft.file.plan, site: site.current, units: ui.units };
}

/** Reads flights from the board on this page's cable. */
export const flightReader = new FlightReader({
  store,
  clock: { pause: (ms) => new Promise((resolve) => setTimeout(resolve, ms)) },
  link: () => boardSession.openLink(),
  shelf,
  now,
  came: intoBook,
});

/** A flight that was read goes into the craft's book, after the sign-off that it was flown with. */
async function intoBook(log: KeptLog, bytes: Uint8Array): Promise<void> {
  const looked = await lookedAt(log, bytes);
  const { craft, crafts } = store.getState();
  if (!craft.file || crafts.reading || !log.id.startsWith(`${crafts.id}/`)) return;
  if (looked === null || 'refused' in looked) return;
  const book = craft.file.field ?? EMPTY_BOOK;
  const known = book.flown.find(
    (f) => f.serial === log.serial && f.flight === log.flight && f.startedS === log.startedS,
  );
  const signed = known ? null : signOffOf(book, new Date());
  store.dispatch(
    fieldBookChanged(
      withFlight(book, {
        ...(known ?? { battery: signed?.battery ?? '', propeller: signed?.propeller ?? '' }),
        ...(signed ? { signedAt: signed.at } : {}),
        ...{ serial: log.serial, flight: log.flight, startedS: log.startedS, readAt: log.readAt },
        ...looked.figures,
        surprises: looked.surprises.map((s) => s.kind),
      }),
    ),
  );
}

const nameOf = (log: KeptLog) => log.file || `flight ${log.flight}`;

/** A kept flight, opened in a worker and looked over; null while no craft is open. */
async function lookedAt(
  log: KeptLog,
  bytes: Uint8Array,
): Promise<LookedAt | { readonly refused: string } | null> {
  const by = judgedBy();
  return by && (await workshop().lookAt(bytes.slice(0, log.upTo), nameOf(log), by));
}

export async function openKept(log: KeptLog): Promise<LookedAt | { readonly refused: string } | null> {
  const bytes = await shelf.bytes(log.id);
  if (!bytes) return { refused: 'The bytes of this flight are not in this browser any more. Read it again.' };
  return lookedAt(log, bytes);
}

/** The bytes of a kept flight, as the board wrote them; null where they are gone. */
export const keptBytes = (id: string): Promise<Uint8Array | null> => shelf.bytes(id);

/** Takes a flight from a file, and keeps it. @returns its id, or why not */
export async function takeFile(file: File): Promise<{ readonly id: string } | { readonly refused: string }> {
  const { crafts } = store.getState();
  const by = judgedBy();
  if (!by || crafts.id === null) return { refused: 'No craft is open.' };
  // What is far too large is refused before it is read.
  if (file.size > MOST_FLOWN_BYTES)
    return {
      refused: `${file.name} has ${Math.round(file.size / 1e6)} MB; at most ${MOST_FLOWN_BYTES / 1e6} MB are read. Nothing was taken.`,
    };
  const bytes = new Uint8Array(await file.arrayBuffer());
  const looked = await workshop().lookAt(bytes, file.name, by);
  if ('refused' in looked) return looked;
  const readAt = now();
  const id = fileLogId(crafts.id, file.name.slice(0, 80), readAt);
  const size = { total: bytes.length, upTo: bytes.length, whole: true };
  await shelf.put(
    { id, serial: '', flight: 0, startedS: 0, file: file.name.slice(0, 80), ...size, readAt },
    bytes,
  );
  await flightReader.listKept();
  return { id };
}

/**
 * Lets a kept flight go; what the book says of it stays.
 * @returns puts it back
 * @throws StoreFault
 */
export async function dropKept(log: KeptLog): Promise<() => Promise<void>> {
  const bytes = await shelf.bytes(log.id);
  await shelf.drop(log.id);
  await flightReader.listKept();
  return async () => {
    if (bytes) await shelf.put(log, bytes);
    await flightReader.listKept();
  };
}
