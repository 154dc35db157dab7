import type { SymbolId } from './glyphs.ts';
import type { ItemId } from './items.ts';

/** A way to bring text over a picture: its grid, its symbols, and the items that it takes. */
export interface VideoSystem {
  readonly id: VideoId;
  readonly name: string;
  readonly columns: number;
  readonly rows: number;
  /** Width over height of the whole picture. */
  readonly aspect: number;
  /** Cells at each side that screens and goggles often cut off. */
  readonly edge: { readonly columns: number; readonly rows: number };
  readonly lacks: readonly SymbolId[];
  /** Items that it does not draw, each with one that tells much the same, where there is one. */
  readonly draws: (item: ItemId) => true | { readonly instead: ItemId | null };
  /** Height of a letter over that of the picture; the greatest cells are not filled by their letters. */
  readonly letter: number;
}

export const videoIds = ['analogue-625', 'analogue-525', 'ouzel', 'dipper'] as const;
export type VideoId = (typeof videoIds)[number];

const all = () => true as const;

/** The small subset of Dipper. */
const dipperLacks: Partial<Record<ItemId, ItemId | null>> = {
  horizon: 'bank',
  aim: null,
  wind: 'speed',
  travelled: 'distance',
  need: 'left',
  ground: 'height',
  throttle: 'current',
  dial: null,
  power: 'current',
  accuracy: 'satellites',
  bearing: 'arrow',
};

/** Analogue: 625 lines (25 pictures a second) and 525 lines (30); both at 4:3. The digital ones are of this world. */
export const videoSystems: Readonly<Record<VideoId, VideoSystem>> = {
  'analogue-625': {
    id: 'analogue-625',
    name: 'Analogue, 625 lines',
    columns: 30,
    rows: 16,
    aspect: 4 / 3,
    edge: { columns: 1, rows: 1 },
    lacks: [],
    draws: all,
    letter: 18 / 288,
  },
  'analogue-525': {
    id: 'analogue-525',
    name: 'Analogue, 525 lines',
    columns: 30,
    rows: 13,
    aspect: 4 / 3,
    edge: { columns: 1, rows: 1 },
    lacks: [],
    draws: all,
    letter: 18 / 240,
  },
  ouzel: {
    id: 'ouzel',
    name: 'Ouzel, digital',
    columns: 53,
    rows: 20,
    aspect: 16 / 9,
    edge: { columns: 0, rows: 0 },
    lacks: [],
    draws: all,
    letter: 0.046,
  },
  dipper: {
    id: 'dipper',
    name: 'Dipper, digital',
    columns: 60,
    rows: 22,
    aspect: 16 / 9,
    edge: { columns: 0, rows: 0 },
    lacks: ['bar', 'aim', 'home', 'satellite', 'link'],
    draws: (item) => {
      const instead = dipperLacks[item];
      return instead === undefined ? true : { instead };
    },
    letter: 0.04,
  },
};
