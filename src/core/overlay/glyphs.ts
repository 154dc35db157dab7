/**
 * Characters of an overlay by number: letters as in ASCII, symbols of ours around them. An overlay's cell holds one number,
 * and BLINKS where it goes on and off.
 */
export const BLINKS = 0x100;
export const BLANK = 0x20;

/** Arrows in sixteen directions, clockwise from straight up. */
const ARROW = 0x80;
const ARROWS = 16;
/** A thin bar at one of nine heights within its cell, from the lowest. */
const BAR = 0x90;
const BARS = 9;

/** Symbols that a video system may lack, with the letter that stands in for each. */
export const symbols = {
  arrow: { code: ARROW, instead: '^', name: 'an arrow' },
  bar: { code: BAR, instead: '-', name: 'a bar for the horizon' },
  aim: { code: 0x9a, instead: '-', name: 'the mark of the nose' },
  home: { code: 0x9b, instead: 'H', name: 'a house for home' },
  satellite: { code: 0x9c, instead: 's', name: 'a satellite' },
  degree: { code: 0x9d, instead: 'o', name: 'a degree' },
  link: { code: 0x9e, instead: 'q', name: 'an aerial for the link' },
  battery: { code: 0x9f, instead: 'b', name: 'a battery' },
} as const;
export type SymbolId = keyof typeof symbols;
const symbolIds = Object.keys(symbols) as readonly SymbolId[];

const char = (code: number) => String.fromCharCode(code);
export const AIM = char(symbols.aim.code);
export const HOUSE = char(symbols.home.code);
export const SATELLITE = char(symbols.satellite.code);
export const DEGREE = char(symbols.degree.code);
export const AERIAL = char(symbols.link.code);
export const BATTERY = char(symbols.battery.code);

/** The arrow nearest to an angle clockwise from straight up, rad. */
export function arrowTo(angle: number): string {
  const turn = Math.round((angle * ARROWS) / (2 * Math.PI));
  return char(ARROW + (((turn % ARROWS) + ARROWS) % ARROWS));
}

/** The bar whose middle is nearest to a height above the cell's foot, share of its height. */
export const barAt = (share: number): string =>
  char(BAR + Math.min(BARS - 1, Math.max(0, Math.floor(share * BARS))));

/** Which symbol a character is; null for letters. */
export function symbolOf(code: number): SymbolId | null {
  if (code >= ARROW && code < ARROW + ARROWS) return 'arrow';
  if (code >= BAR && code < BAR + BARS) return 'bar';
  return symbolIds.find((id) => symbols[id].code === code) ?? null;
}

/** The direction of an arrow's character, rad clockwise from straight up; of others 0. */
export const arrowAngle = (code: number): number => ((code - ARROW) * 2 * Math.PI) / ARROWS;
/** Where in its cell the bar of a character lies, share of the height from its foot. */
export const barShare = (code: number): number => (code - BAR + 0.5) / BARS;
