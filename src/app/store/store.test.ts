import { beforeAll, describe, expect, it } from 'vitest';
import { refTo } from '#core/board/boardRef.ts';
import { massifH7B } from '#core/board/boards.ts';
import { readCraftFile } from '#core/formats/craftFile.ts';
import { luckOf } from '#core/formats/rehearsalResult.ts';
import { makeProof } from '#core/proofs/proofs.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { demoCraft, demoValues, torvholm } from '../../testing/demoCraft.ts';
import { proofWorld } from '../../testing/proofWorld.ts';
import { stationOf, stationProgress } from '../legs/legs.ts';
import {
  airframeChanged,
  boardChosen,
  craftLoaded,
  craftReducer,
  fieldBookChanged,
  proofTaken,
  renamed,
  searchChanged,
} from './craftSlice.ts';
import { flown, othersFlown, rehearsalReducer, scenarioChanged } from './rehearsalSlice.ts';
import { loadRules } from './rules.ts';
import {
  craftFileNow,
  craftTextNow,
  selectChanges,
  selectDescription,
  selectFindings,
  selectProgress,
  selectProofWorld,
  toFly,
} from './selectors.ts';
import {
  boardRead,
  catalogueKnown,
  craftOpened,
  dropped,
  initialSettings,
  settingsReducer,
  staged,
} from './settingsSlice.ts';
import { siteTaken } from './siteSlice.ts';
import { makeStore, store } from './store.ts';

const known = {
  entries: pfadCatalogue.entries,
  rules: pfadCatalogue.rules,
  version: '3.2',
};
const opened = () =>
  settingsReducer(undefined, craftOpened({ ...initialSettings, ...known, base: demoValues('turnstone') }));

describe('settings in the store', () => {
  it('stage and drop edits without touching the board copy', () => {
    let s = opened();
    const base = s.base;
    s = settingsReducer(s, staged({ 'return.height': 300, 'loiter.radius': 120 }));
    expect(s.edits).toEqual({ 'return.height': 300, 'loiter.radius': 120 });
    s = settingsReducer(s, dropped(['loiter.radius']));
    expect(Object.keys(s.edits)).toEqual(['return.height']);
    expect(s.base).toBe(base);
  });

  it('take the board copy only from the board, and keep what still differs', () => {
    let s = settingsReducer(opened(), staged({ 'return.height': 300, 'loiter.radius': 120 }));
    s = settingsReducer(s, boardRead({ ...s.base, 'return.height': 300 }));
    expect(s.baseFrom).toBe('board');
    expect(s.edits).toEqual({ 'loiter.radius': 120 });
  });

  it('fill settings that a file lacks with the defaults of the catalogue', () => {
    const s = settingsReducer({ ...initialSettings, base: { 'return.height': 77 } }, catalogueKnown(known));
    expect(s.base['return.height']).toBe(77);
    expect(Object.keys(s.base)).toHaveLength(pfadCatalogue.entries.length);
  });
});

describe('the craft in the store', () => {
  it('is renamed in its file and its description together', () => {
    const s = craftReducer(
      craftReducer(undefined, craftLoaded(demoCraft('turnstone'))),
      renamed('Little stone'),
    );
    expect([s.file?.name, s.airframe?.name]).toEqual(['Little stone', 'Little stone']);
  });

  it('keeps the newest proof of a name', () => {
    let s = craftReducer(undefined, craftLoaded(demoCraft('turnstone')));
    for (const at of ['2026-01-01T00:00:00Z', '2026-01-02T00:00:00Z'])
      s = craftReducer(s, proofTaken(makeProof({ kind: 'still', output: 7 }, proofWorld(), at)));
    expect(s.proofs.map((p) => p.at)).toEqual(['2026-01-02T00:00:00Z']);
  });
});

describe('what follows from the store', () => {
  it('says nothing of how far a craft is before its rules are there', async () => {
    const fresh = makeStore();
    fresh.dispatch(craftLoaded(demoCraft('turnstone-as-found')));
    fresh.dispatch(siteTaken({ site: torvholm, named: true }));
    fresh.dispatch(craftOpened({ ...initialSettings, ...known, base: demoValues('turnstone-as-found') }));
    expect(selectProgress(fresh.getState())).toBeNull();
    expect(selectFindings(fresh.getState())).toEqual([]);
    await loadRules(fresh);
    expect(selectProgress(fresh.getState())).not.toBeNull();
    expect(selectFindings(fresh.getState()).length).toBeGreaterThan(0);
  });

  beforeAll(() => loadRules(store));

  it('is nothing before a craft is open', () => {
    expect(craftFileNow(store.getState())).toBeNull();
    expect(selectProgress(store.getState())).toBeNull();
    expect(selectFindings(store.getState())).toEqual([]);
  });

  /** The overlay that was made for another grid. */
  const ofThePicture = ['overlay-flickers.a', 'overlay-outside.a'];

  it('is findings, changes and a file to save', () => {
    const craft = { ...demoCraft('turnstone-as-found'), extra: { kept: true } };
    store.dispatch(craftLoaded(craft));
    store.dispatch(siteTaken({ site: torvholm, named: true }));
    store.dispatch(craftOpened({ ...initialSettings, ...known, base: demoValues('turnstone-as-found') }));
    expect(selectFindings(store.getState()).map((f) => f.id)).toEqual([
      'lost-cut',
      'return-below-ridge',
      'gnss-budget',
      ...ofThePicture,
    ]);
    store.dispatch(staged({ 'lost.action': 'return', 'return.height': 405, 'gnss.baud': '38400' }));
    // High enough by itself it still climbs too late; what the finding offers ends it.
    const [late] = selectFindings(store.getState());
    expect(late).toMatchObject({ id: 'return-climbs-late' });
    store.dispatch(staged(late!.fix!.edits));
    expect(selectFindings(store.getState()).map((f) => f.id)).toEqual(ofThePicture);
    expect(selectChanges(store.getState()).map((c) => c.key)).toEqual([
      'lost.action',
      'return.climb',
      'return.height',
      'gnss.baud',
    ]);
    const saved = JSON.parse(craftTextNow(store.getState())!) as Record<string, unknown>;
    expect(saved.edits).toEqual({
      'gnss.baud': '38400',
      'lost.action': 'return',
      'return.height': 405,
      'return.climb': 'climb-first',
    });
    expect(saved.extra).toEqual({ kept: true });
  });

  it('is the board that the craft is for, as it says itself once it was met', () => {
    expect(selectDescription(store.getState())!.target).toBe('fell-f7');
    const massif = refTo(massifH7B, 'Pfad', '3.2');
    store.dispatch(boardChosen(massif));
    expect(selectDescription(store.getState())!.pads).toHaveLength(12);
    expect(toFly(store.getState())!.target).toBe('massif-h7-b');
    store.dispatch(boardChosen({ ...massif, target: 'granite-x1' }));
    expect(selectDescription(store.getState())).toBeNull();
    expect(selectFindings(store.getState()).map((f) => f.id)).toEqual(ofThePicture);
    store.dispatch(boardChosen(demoCraft('turnstone').board));
  });

  it('knows whether the last flight still holds, over a reload as well', () => {
    const state = () => stationProgress(stationOf('one-flight'), selectProgress(store.getState())!);
    const flight = (luck: boolean) =>
      makeProof(
        { kind: 'flight', verdict: 'home', seconds: 400, luck },
        selectProofWorld(store.getState())!,
        '2026-06-01T09:00:00Z',
      );
    expect(state()).toBe('open');
    store.dispatch(proofTaken(flight(true)));
    expect(state()).toBe('open');
    store.dispatch(proofTaken(flight(false)));
    expect(state()).toBe('proven');
    const again = readCraftFile(craftTextNow(store.getState())!);
    if (!again.ok) throw new Error(again.why);
    store.dispatch(craftLoaded(again.craft));
    expect(state()).toBe('proven');
    store.dispatch(scenarioChanged({ seed: 99 }));
    expect(state()).toBe('stale');
    store.dispatch(scenarioChanged({ seed: 7 }));
    expect(state()).toBe('proven');
    store.dispatch(airframeChanged({ ...demoCraft('turnstone').airframe, massKg: 2.4 }));
    expect(state()).toBe('stale');
  });

  it('tells luck from the seeds of the flight that is shown, not of one before', () => {
    const result = {
      verdict: 'home' as const,
      cause: 'nothing' as const,
      causeAtS: 0,
      settings: [],
      margins: { clearanceM: 60, batteryShare: 0.7, windShare: 0.4, attitudeOffDeg: 2, touchShare: 0 },
      near: [],
      reason: '',
      seconds: 1,
      endDistanceM: 0,
      closestM: 0,
      usedWh: 0,
      lostLink: [],
      decisions: [],
      track: [],
    };
    store.dispatch(flown(result));
    const { flight } = store.getState().rehearsal;
    expect(store.getState().rehearsal.othersFlying).toBe(true);
    const others = [{ seed: 8, verdict: 'terrain' as const, reason: 'It flew into the ground.' }];
    store.dispatch(othersFlown({ flight: flight - 1, others }));
    expect(store.getState().rehearsal.result!.others).toBeUndefined();
    store.dispatch(othersFlown({ flight, others }));
    expect(store.getState().rehearsal.othersFlying).toBe(false);
    expect(luckOf(store.getState().rehearsal.result!)).toMatch(/of 2 seeds of the same flight 1 comes home/);
    expect(
      rehearsalReducer(store.getState().rehearsal, scenarioChanged({ limitS: 60 })).scenario.limitS,
    ).toBe(60);
  });
});

describe('what a craft’s file could not hold', () => {
  it('does not come into the store: searches anywhere, books with what is none', () => {
    const store = makeStore();
    store.dispatch(craftLoaded(demoCraft('turnstone')));
    const seen = {
      ...{ lat: 61.9, lon: -12.4, heightM: 100, accuracyM: 5, courseRad: 0, speedMps: 10, climbMps: 0 },
      ...{ windFromRad: 0, windMps: 3, returning: false },
    };
    store.dispatch(searchChanged({ seen, by: 'a test', searched: [] }));
    expect(store.getState().craft.file!.lost?.seen.lat).toBe(61.9);
    store.dispatch(searchChanged({ seen: { ...seen, lat: 1e9 }, by: 'a test', searched: [] }));
    expect(store.getState().craft.file!.lost?.seen.lat).toBe(61.9);
    expect(store.getState().ui.refusedEntry).toContain('A search cannot be like that');
    store.dispatch(
      fieldBookChanged({
        kit: [{ kind: 'battery', name: '', since: '2026-01-01' }],
        signOffs: [],
        flown: [],
      }),
    );
    expect(store.getState().craft.file!.field).toBeUndefined();
    store.dispatch(searchChanged(undefined));
    expect(store.getState().craft.file!.lost).toBeUndefined();
  });
});
