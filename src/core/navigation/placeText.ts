import type { Place } from './earth.ts';

const NUMBER = String.raw`(\d+(?:\.\d+)?)\s*°?`;
const HALF = (letters: string) =>
  String.raw`(?:([${letters}])\s*${NUMBER}|${NUMBER}\s*([${letters}])|(-)?${NUMBER})`;
const PLACE = new RegExp(String.raw`^\s*${HALF('NS')}(?:\s*[,;]\s*|\s+)${HALF('EW')}\s*$`, 'i');

/** One half of a place out of what matched: a letter or a sign, never both. */
function degrees(found: readonly (string | undefined)[], negative: string): number {
  const [before, first, second, after, minus, third] = found;
  const size = Number(first ?? second ?? third);
  return (before ?? after)?.toUpperCase() === negative || minus ? -size : size;
}

/** Degrees of a place as a person types them: latitude, then longitude, with a comma or a blank between; null for none. */
export function placeOfText(text: string): Place | null {
  const m = PLACE.exec(text);
  if (!m) return null;
  const lat = degrees(m.slice(1, 7), 'S');
  const lon = degrees(m.slice(7, 13), 'W');
  return Math.abs(lat) <= 90 && Math.abs(lon) <= 180 ? { lat, lon } : null;
}

/** To about a metre. */
export const placeText = ({ lat, lon }: Place): string => `${lat.toFixed(5)}, ${lon.toFixed(5)}`;
