import type { FieldBook, KitItem, KitKind, SignOff } from './fieldBook.ts';
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
}

/** How old a battery or a propeller is: by the calendar, and by the flights that were signed off with it. */
export function ageOf(item: KitItem, { signOffs }: FieldBook, now: Date): KitAge {
  const days = Math.max(0, Math.floor((now.getTime() - Date.parse(item.since)) / 86_400_000));
  return { days, flights: signOffs.filter((s) => s[item.kind] === item.name).length };
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
