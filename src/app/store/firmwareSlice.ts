import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { ImageInfo } from '#core/formats/firmwareImage.ts';
import type { ReleaseCatalogue } from '#core/formats/releases.ts';
import type { MigrationReport } from '#core/settings/migration/migrate.ts';

/** An image that was looked at and is whole; its bytes are in app/flashing/imageInHand.ts. */
interface ImageInHand {
  readonly name: string;
  readonly info: ImageInfo;
}

export type FlashRun =
  | { readonly kind: 'idle' }
  | { readonly kind: 'backing-up' }
  | { readonly kind: 'entering' }
  | {
      readonly kind: 'flashing';
      readonly doing: 'erasing' | 'writing' | 'verifying';
      /** Bytes, of all. */
      readonly done: number;
      readonly of: number;
      /** Bytes a second; null until that can be told. */
      readonly rate: number | null;
    }
  /** Goes on by itself when the board is back. */
  | { readonly kind: 'interrupted'; readonly why: string }
  | { readonly kind: 'starting' }
  | { readonly kind: 'listening' }
  /** The new firmware runs. */
  | { readonly kind: 'runs' }
  | { readonly kind: 'failed'; readonly why: string };

/** Settings that wait to be brought back to a board. */
export interface Returning {
  readonly serial: string;
  readonly snapshot: string;
}

type BringingBack =
  | { readonly kind: 'idle' }
  | { readonly kind: 'writing' }
  | { readonly kind: 'failed'; readonly why: string }
  | { readonly kind: 'done'; readonly count: number };

/** Motor controllers that are brought to another firmware, one after another. */
type ControllerRun =
  | { readonly kind: 'idle' }
  | {
      readonly kind: 'writing';
      readonly output: number;
      readonly nth: number;
      readonly of: number;
      readonly share: number;
    }
  | {
      /** Cut off: what was written stays, and it goes on there. Refused: that has to be put right first. */
      readonly kind: 'interrupted' | 'failed';
      readonly output: number;
      /** Outputs that still need it. */
      readonly left: readonly number[];
      readonly version: string;
      readonly why: string;
    }
  | { readonly kind: 'done'; readonly version: string; readonly count: number };

export interface FirmwareState {
  readonly controllers: ControllerRun;
  readonly catalogue: ReleaseCatalogue | null;
  /** The catalogue is the one of an earlier visit. */
  readonly cached: boolean;
  /** Why there is none, or no image was taken in hand. */
  readonly fault: string | null;
  /** Name of what is being fetched and looked at. */
  readonly fetching: string | null;
  readonly inHand: ImageInHand | null;
  readonly wipe: boolean;
  readonly run: FlashRun;
  readonly returning: Returning | null;
  readonly report: MigrationReport | null;
  readonly back: BringingBack;
}

const slice = createSlice({
  name: 'firmware',
  initialState: {
    controllers: { kind: 'idle' },
    catalogue: null,
    cached: false,
    fault: null,
    fetching: null,
    inHand: null,
    wipe: false,
    run: { kind: 'idle' },
    returning: null,
    report: null,
    back: { kind: 'idle' },
  } as FirmwareState,
  reducers: {
    firmwareChanged: (state, { payload }: PayloadAction<Partial<FirmwareState>>): FirmwareState => ({
      ...state,
      ...payload,
    }),
  },
});

export const { firmwareChanged } = slice.actions;
export const firmwareReducer = slice.reducer;
