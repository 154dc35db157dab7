import {
  type FieldBook,
  type FlownFlight,
  type KitItem,
  type KitKind,
  MOST_FLIGHTS,
  type SignOff,
} from './fieldBook.ts';
import { beforeFlight, type WalkLine, wanting } from './walk.ts';

/** A flight signed off by what is proven, and how old what it carries is. */

/** Why a flight cannot be signed off now, as a sentence; null where it can. What is merely open is named on the sign-off. */
export function whyNotSigned(lines: readonly WalkLine[]): string | null {
  const blocked = beforeFlight(lines).filter((l) => l.state === 'blocked');
  return blocked.length === 0
    ? null
    : `${blocked[0]!.title}: ${blocked[0]!.why ?? 'it is not well'}${blocked.length > 1 ? `, and ${blocked.length - 1} more` : ''}. What is not well is mended before it flies.`;
}

/** What is signed now. */
export function signedOff(
  lines: readonly WalkLine[],
  now: Date,
  with_: Pick<SignOff, 'site' | 'battery' | 'propeller'> & Partial<Pick<SignOff, 'lat' | 'lon' | 'windMps'>>,
): SignOff {
  const open = wanting(lines);
  const of = beforeFlight(lines).length;
  return {
    ...with_,
    at: now.toISOString(),
    proven: of - open.length,
    of,
    open: open.map((l) => l.title.slice(0, 60)),
  };
}

export interface KitAge {
  readonly days: number;
  readonly flights: number;
  /** In the air with it, s, and drawn from it, mAh, as flights that were read tell. */
  readonly seconds: number;
  readonly drawnMah: number;
  /** Resistance of battery and lead as the last flight that tells it had it, ohm; null where none does. */
  readonly ohm: number | null;
}

/** How old a battery or a propeller is: by the calendar, and by the flights that were signed off with it, or read and not signed off. */
export function ageOf(item: KitItem, { signOffs, flown }: FieldBook, now: Date): KitAge {
  const days = Math.max(0, Math.floor((now.getTime() - Date.parse(item.since)) / 86_400_000));
  const signed = signOffs.filter((s) => s[item.kind] === item.name).length;
  const read = flown.filter((f) => f[item.kind] === item.name);
  return {
    days,
    flights: signed + read.filter((f) => f.signedAt === undefined).length,
    seconds: read.reduce((sum, f) => sum + f.seconds, 0),
    drawnMah: read.reduce((sum, f) => sum + (f.drawnMah ?? 0), 0),
    ohm: read.findLast((f) => f.ohm !== undefined)?.ohm ?? null,
  };
}

/** How long after it was signed off a flight that is read is taken for that one, ms. */
const SAME_DAY_MS = 24 * 3_600_000;

/** The sign-off that a flight which is read now was flown after: the last of the day that no other flight has; null where there is none. */
export function signOffOf({ signOffs, flown }: FieldBook, readAt: Date): SignOff | null {
  const taken = new Set(flown.map((f) => f.signedAt));
  return (
    signOffs.findLast(
      (s) => !taken.has(s.at) && Math.abs(readAt.getTime() - Date.parse(s.at)) < SAME_DAY_MS,
    ) ?? null
  );
}

/** A book with one more flight, or with one that it has already told anew. The oldest go where it is full. */
export function withFlight(book: FieldBook, flight: FlownFlight): FieldBook {
  const same = (f: FlownFlight) =>
    f.serial === flight.serial && f.flight === flight.flight && f.startedS === flight.startedS;
  const flown = book.flown.some(same)
    ? book.flown.map((f) => (same(f) ? flight : f))
    : [...book.flown, flight].slice(-MOST_FLIGHTS);
  return { ...book, flown };
}

/** A pack that is flown so often or lies so long has lost a good part of what it held: it is measured, or flown near by. Ours. */
const MANY_FLIGHTS: Readonly<Record<KitKind, number>> = { battery: 150, propeller: 60 };
const MANY_DAYS: Readonly<Record<KitKind, number>> = { battery: 3 * 365, propeller: 5 * 365 };

/** What to mind about something that has grown old, as a sentence; null while it has not. */
export function agedWords({ kind }: KitItem, { days, flights }: KitAge): string | null {
  if (flights < MANY_FLIGHTS[kind] && days < MANY_DAYS[kind]) return null;
  return kind === 'battery'
    ? 'It has grown old: measure what it holds and its resistance before a flight that needs all of it.'
    : 'It has flown for long: look at its root and edges by the light, and listen to it in a run-up.';
}

/** A kit with one more thing. @returns a sentence where it has one of that name already */
export function withItem(book: FieldBook, item: KitItem): FieldBook | string {
  if (book.kit.some((k) => k.kind === item.kind && k.name === item.name))
    return `There is a ${item.kind} called ${item.name} already.`;
  return { ...book, kit: [...book.kit, item] };
}
