import { describe, expect, it } from 'vitest';
import { demoCraft } from '../../testing/demoCraft.ts';
import { proofWorld } from '../../testing/proofWorld.ts';
import { avocet, flock } from '../airframe/library.ts';
import { armTries } from '../arming/drill.ts';
import { makeProof, type Proof, type ProofWorld } from '../proofs/proofs.ts';
import type { Seen } from '../proofs/seen.ts';
import { stickNames } from '../proofs/seen.ts';
import { tiltsOf } from '../proofs/surfaceAnswers.ts';
import { firstFlights, lookedAt } from './looks.ts';
import { LOOK_HOLDS_H, type WalkInput, walkLines, wanting } from './walk.ts';

const AT = '2026-06-01T09:00:00Z';
const now = new Date('2026-06-01T10:00:00Z');
const world = proofWorld();

const walked = (proofs: readonly Proof[], change: Partial<WalkInput> = {}) =>
  walkLines({ ...{ world, proofs, blocking: [], waiting: 0, units: 'metric', now }, ...change });
const line = (id: string, lines = walked([])) => lines.find((l) => l.id === id)!;
const proof = (seen: Seen, w: ProofWorld = world) => makeProof(seen, w, AT);

/** All that can be proven of a craft, seen. */
function all(w: ProofWorld): Proof[] {
  const { airframe, description } = w;
  const outputs = (description?.pads ?? []).map((p) => {
    const drives = w.values[`out.${p.output}.drives`];
    return drives === 'nothing' || drives === undefined
      ? ({ kind: 'still', output: p.output } as const)
      : ({
          kind: 'moved',
          output: p.output,
          actuator: drives as 'elevator',
          first: 'down',
        } as const);
  });
  const seen: Seen[] = [
    ...outputs,
    ...airframe.surfaces.map((s) => ({
      ...{ kind: 'throw' as const, surface: s.id, output: 3 },
      readings: [{ us: 1500, angle: 0 }],
    })),
    ...tiltsOf(airframe).map((tilt) => ({
      ...{ kind: 'opposes' as const, tilt, tiltDeg: 20 },
      surfaces: airframe.surfaces.map((s) => s.id),
    })),
    ...stickNames.map((stick) => ({ kind: 'stick' as const, stick, channel: 1, fromUs: 1000, toUs: 2000 })),
    ...armTries.map((tried) => ({ kind: 'arming' as const, tried, good: true })),
    { kind: 'lost-drill', noticedS: 1.5, actsS: 6, backS: 2, asDrawn: true },
    { kind: 'winds', home: 240, total: 240 },
    { kind: 'volts', boardV: 16.4, meterV: 16.4 },
    ...lookedAt.map((id) => ({ kind: 'looked' as const, line: id, good: true })),
  ];
  return seen.map((s) => makeProof(s, w, AT));
}

describe('the walk to the strip', () => {
  it('is walked whole once all of it was seen', () => {
    const lines = walked(all(world));
    expect(wanting(lines)).toEqual([]);
    expect(line('winds', lines)).toMatchObject({ state: 'proven', at: AT });
    expect(line('lost', lines).seen).toMatch(/noticed after 1\.5 s/);
    expect(line('opposes', lines).seen).toBe('6 of 6');
  });

  it('begins with what blocks, then with what waits to be written', () => {
    const lines = walked(all(world), { blocking: ['It rings.'], waiting: 2 });
    expect(wanting(lines).map((l) => [l.id, l.state, l.why])).toEqual([
      ['nothing-blocks', 'blocked', 'It rings.'],
      ['written', 'open', '2 edits wait to be written'],
    ]);
    expect(line('written', walked([], { waiting: null })).why).toBe('no board was met');
  });

  it('has what was proven stale once that was changed, with the reason', () => {
    const changed = {
      ...world,
      values: { ...world.values, 'out.4.reversed': !world.values['out.4.reversed'], 'lost.guard': 9 },
    };
    const lines = walked(all(world), { world: changed });
    expect(line('opposes', lines)).toMatchObject({
      state: 'stale',
      why: 'settings it rests on were changed',
    });
    expect(line('lost', lines).state).toBe('stale');
    expect(line('sticks', lines).state).toBe('proven');
  });

  it('looks anew each day, but at the balance only when the craft is another', () => {
    const later = new Date(Date.parse(AT) + (LOOK_HOLDS_H + 1) * 3_600_000);
    const lines = walked(all(world), { now: later });
    expect(line('tilt', lines)).toMatchObject({ state: 'stale', why: 'it is looked at anew each day' });
    expect(line('balance', lines).state).toBe('proven');
    const heavier = { ...world, airframe: { ...world.airframe, massKg: 1.1 * world.airframe.massKg } };
    expect(line('balance', walked(all(world), { world: heavier })).state).toBe('stale');
  });

  it('stops where somebody looked and it was not well', () => {
    const lines = walked([proof({ kind: 'looked', line: 'tilt', good: false })]);
    expect(line('tilt', lines)).toMatchObject({
      state: 'blocked',
      why: 'it was not well when it was looked at',
    });
    // Looked at again, and well.
    expect(line('tilt', walked([proof({ kind: 'looked', line: 'tilt', good: true })])).state).toBe('proven');
  });

  it('says of each craft what it shall do: surfaces by their names, rotors without throws, lengths in the units read', () => {
    expect(line('tilt').look).toMatch(/^Left aileron up, right aileron down\./);
    expect(line('balance').look).toContain('mm aft of the nose');
    expect(line('balance', walked([], { units: 'imperial' })).look).toContain('in aft of the nose');
    for (const airframe of flock) {
      const lines = walked([], { world: { ...world, airframe } });
      expect(new Set(lines.map((l) => l.id)).size).toBe(lines.length);
      for (const l of lines) expect(l.look, l.id).toMatch(/\.$/);
    }
    const hovers = walked([], { world: { ...world, airframe: avocet } });
    expect(hovers.map((l) => l.id)).not.toContain('throws');
    expect(line('armed', hovers).title).toBe('Arm, and lift off');
    // Nobody holds rotors that may turn.
    expect(line('tilt', hovers)).toMatchObject({
      title: 'Propellers',
      look: expect.stringMatching(/nothing is near any of them/),
    });
    for (const id of ['sticks-move', 'range']) expect(line(id, hovers).look).toMatch(/^Disarmed/);
  });

  it('knows every line that is looked at', () => {
    const ids = walked([]).map((l) => l.id);
    for (const id of lookedAt) expect(ids).toContain(id);
    expect(demoCraft('turnstone').proofs).toEqual([]);
  });
});

describe('the first flights', () => {
  it('come one after the other, count to no sign-off, and hold until what they rest on changes', () => {
    const lines = walked(all(world).filter((p) => !p.id.startsWith('looked.flown')));
    expect(wanting(lines)).toEqual([]);
    expect(lines.filter((l) => l.place === 'first').map((l) => [l.id, l.state])).toEqual(
      firstFlights.map((id) => [id, 'open']),
    );
    const flown = walked(all(world));
    expect(line('flown-return', flown)).toMatchObject({ state: 'proven', seen: 'flown, and well' });
    // A week later it is as it was; with another return height it is flown anew; with another overlay it is not.
    const later = { now: new Date('2026-06-08T10:00:00Z') };
    expect(line('flown-return', walked(all(world), later))).toMatchObject({ state: 'proven' });
    const set = (values: object) =>
      walked(all(world), { world: { ...world, values: { ...world.values, ...values } } });
    expect(line('flown-return', set({ 'return.height': 411 }))).toMatchObject({ state: 'stale' });
    expect(line('flown-return', set({ 'overlay.a.mode': 411 }))).toMatchObject({ state: 'proven' });
  });
});

describe('what is measured on the way', () => {
  it('is told with its unit', () => {
    const measured = proof({ kind: 'looked', line: 'lead', good: true, figure: 1200 });
    expect(line('lead', walked([measured]))).toMatchObject({
      state: 'proven',
      seen: '1200 Ω, looked at, and well',
    });
    const short = proof({ kind: 'looked', line: 'range', good: false, figure: 12 });
    expect(line('range', walked([short]))).toMatchObject({
      state: 'blocked',
      seen: '12 m, looked at, and not well',
    });
  });
});
