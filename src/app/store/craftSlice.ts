import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Airframe } from '#core/airframe/airframe.ts';
import type { BoardRef } from '#core/board/boardRef.ts';
import type { FieldBook } from '#core/field/fieldBook.ts';
import type { CraftFile } from '#core/formats/craftFile.ts';
import type { Transmitter } from '#core/modes/transmitter.ts';
import { EMPTY_PLAN, type FlightPlan, isEmptyPlan } from '#core/plan/plan.ts';
import { type Proof, withProof } from '#core/proofs/proofs.ts';
import type { Search } from '#core/search/lastSeen.ts';
import type { VideoSupply } from '#core/video/supply.ts';

interface CraftState {
  /** The file as opened, unknown fields and all; settings, edits and proofs in it are put together at saving. */
  readonly file: CraftFile | null;
  readonly airframe: Airframe | null;
  readonly proofs: readonly Proof[];
}

/** A file with a plan; one without a word of it where that is empty. */
function withPlan({ plan: _, ...file }: CraftFile, plan: CraftFile['plan'] | FlightPlan): CraftFile {
  const held = plan && !isEmptyPlan(plan);
  return held ? { ...file, plan: plan as NonNullable<CraftFile['plan']> } : file;
}

const slice = createSlice({
  name: 'craft',
  initialState: { file: null, airframe: null, proofs: [] } as CraftState,
  reducers: {
    craftLoaded: (_state, { payload }: PayloadAction<CraftFile>): CraftState => ({
      file: payload,
      airframe: payload.airframe,
      proofs: payload.proofs,
    }),
    airframeChanged: {
      // Changes that follow closely are one step of undo.
      prepare: (payload: Airframe) => ({ payload, meta: { at: Date.now() } }),
      reducer: (state, { payload }: PayloadAction<Airframe>): CraftState => ({ ...state, airframe: payload }),
    },
    /** Undo and redo. */
    describedAs: (
      state,
      {
        payload: { airframe, name, wiring, board, plan },
      }: PayloadAction<{
        airframe: Airframe | null;
        name: string;
        wiring?: CraftFile['wiring'] | undefined;
        board?: CraftFile['board'] | undefined;
        plan?: CraftFile['plan'] | undefined;
      }>,
    ): CraftState => {
      if (!state.file) return state;
      const { wiring: _, ...file } = withPlan(state.file, plan ?? EMPTY_PLAN);
      // What is known of a board of the same make since then stays known.
      const other = board && board.target !== file.board.target;
      return {
        ...state,
        file: { ...file, name, ...(wiring ? { wiring } : {}), ...(other ? { board } : {}) },
        airframe,
      };
    },
    renamed: (state, { payload }: PayloadAction<string>): CraftState => ({
      ...state,
      file: state.file && { ...state.file, name: payload },
      airframe: state.airframe && { ...state.airframe, name: payload },
    }),
    setupChosen: (state, { payload }: PayloadAction<string>): CraftState => ({
      ...state,
      file: state.file && { ...state.file, setup: payload },
    }),
    /** The board that the craft is for: met, or chosen. */
    boardChosen: (state, { payload }: PayloadAction<BoardRef>): CraftState => ({
      ...state,
      file: state.file && { ...state.file, board: payload },
    }),
    /** The site that the craft is set up for; undefined for none. */
    siteNamed: (state, { payload }: PayloadAction<string | undefined>): CraftState => {
      if (!state.file) return state;
      const { site, ...file } = state.file;
      return { ...state, file: payload === undefined ? file : { ...file, site: payload } };
    },
    /** The craft on the bench was soldered anew. */
    benchSoldered: (state, { payload }: PayloadAction<NonNullable<CraftFile['bench']>>): CraftState => ({
      ...state,
      file: state.file && { ...state.file, bench: payload },
    }),
    /** A switch of the transmitter was flicked: another one, or another position of it. */
    switchSeen: (state, { payload }: PayloadAction<Transmitter['switches'][number]>): CraftState => {
      const known = state.file?.transmitter?.switches ?? [];
      const others = known.filter((s) => s.channel !== payload.channel);
      const seen = { ...known.find((s) => s.channel === payload.channel), ...payload };
      const switches = [...others, seen].sort((a, b) => a.channel - b.channel);
      return { ...state, file: state.file && { ...state.file, transmitter: { switches } } };
    },
    /** Whatever was seen of the transmitter is forgotten: another one is in the hands. */
    transmitterForgotten: (state): CraftState => {
      if (!state.file) return state;
      const { transmitter: _, ...file } = state.file;
      return { ...state, file };
    },
    wiringChanged: (state, { payload }: PayloadAction<NonNullable<CraftFile['wiring']>>): CraftState => ({
      ...state,
      file: state.file && { ...state.file, wiring: payload },
    }),
    planChanged: {
      /** @param dragged something is being moved: changes that follow closely are one step of undo */
      prepare: (payload: FlightPlan, dragged = false) => ({
        payload,
        meta: dragged ? { at: Date.now() } : {},
      }),
      reducer: (state, { payload }: PayloadAction<FlightPlan>): CraftState => ({
        ...state,
        file: state.file && withPlan(state.file, payload),
      }),
    },
    /** How far the transmitter is heard, m; 0 where nobody knows. */
    linkRangeSaid: (state, { payload }: PayloadAction<number>): CraftState => ({
      ...state,
      file: state.file && { ...state.file, linkM: payload },
    }),
    /** What its video transmitter lives on. */
    videoSupplySaid: (state, { payload }: PayloadAction<VideoSupply>): CraftState => ({
      ...state,
      file: state.file && { ...state.file, video: payload },
    }),
    /** What it flies with, and what was signed off. */
    fieldBookChanged: (state, { payload }: PayloadAction<FieldBook>): CraftState => ({
      ...state,
      file: state.file && {
        ...state.file,
        field: { kit: [...payload.kit], signOffs: [...payload.signOffs], flown: [...payload.flown] },
      },
    }),
    /** The search that is under way; undefined ends it. */
    searchChanged: (state, { payload }: PayloadAction<Search | undefined>): CraftState => ({
      ...state,
      file: state.file && { ...state.file, lost: payload },
    }),
    /** Begins a lesson anew: what was kept of it so far goes. */
    proofsDropped: (state, { payload }: PayloadAction<readonly string[]>): CraftState => ({
      ...state,
      proofs: state.proofs.filter((p) => !payload.includes(p.id)),
    }),
    proofTaken: (state, { payload }: PayloadAction<Proof>): CraftState => ({
      ...state,
      proofs: withProof(state.proofs, payload),
    }),
  },
});

export const {
  craftLoaded,
  airframeChanged,
  describedAs,
  renamed,
  setupChosen,
  boardChosen,
  siteNamed,
  switchSeen,
  transmitterForgotten,
  wiringChanged,
  planChanged,
  linkRangeSaid,
  searchChanged,
  fieldBookChanged,
  videoSupplySaid,
  benchSoldered,
  proofTaken,
  proofsDropped,
} = slice.actions;
export const craftReducer = slice.reducer;
