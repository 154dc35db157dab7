import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '../../firmware/catalogue.ts';
import { demoValues } from '../../testing/demoCraft.ts';
import { proofWorld } from '../../testing/proofWorld.ts';
import type { ActuatorId } from '../airframe/actuators.ts';
import { avocet } from '../airframe/library.ts';
import { findAll } from '../findings/findings.ts';
import type { Values } from '../settings/catalogue.ts';
import { turnsWrong } from './follows.ts';
import {
  changedSince,
  makeProof,
  type Proof,
  type ProofWorld,
  staleWords,
  stateOf,
  together,
  withProof,
} from './proofs.ts';
import { editsFromAnswer, editsFromStill, opposingDirection } from './surfaceAnswers.ts';

const values = demoValues('turnstone-as-found');
const at = '2026-06-01T09:00:00Z';

describe('what follows from an answer', () => {
  it('assigns the output and reverses it when the surface went up first', () => {
    expect(editsFromAnswer(values, 4, 'elevator', 'up', new Map())).toMatchObject({
      'out.4.drives': 'elevator',
      'out.4.reversed': true,
    });
    expect(editsFromAnswer(values, 4, 'elevator', 'down', new Map())).toMatchObject({
      'out.4.reversed': false,
    });
    expect(editsFromAnswer(values, 5, 'rudder', 'right', new Map())).toMatchObject({
      'out.5.reversed': true,
    });
  });

  it('lets go of the actuator on the output that claimed it, so that swapped pads come right in two answers', () => {
    const first = editsFromAnswer(values, 1, 'right-motor', 'turned', new Map());
    expect(first).toEqual({ 'out.1.drives': 'right-motor', 'out.2.drives': 'nothing' });
    const seen = new Map<ActuatorId, number>([['right-motor', 1]]);
    const second = editsFromAnswer({ ...values, ...first }, 2, 'left-motor', 'turned', seen);
    expect({ ...first, ...second }).toEqual({ 'out.1.drives': 'right-motor', 'out.2.drives': 'left-motor' });
  });

  it('keeps two outputs that were both seen to move one surface', () => {
    const seen = new Map<ActuatorId, number>([['elevator', 4]]);
    expect(editsFromAnswer(values, 7, 'elevator', 'down', seen)).toEqual({
      'out.7.drives': 'elevator',
      'out.7.reversed': false,
    });
  });

  it('frees an output on which nothing moved', () => {
    expect(editsFromStill(6)).toEqual({ 'out.6.drives': 'nothing' });
  });
});

describe('proofs', () => {
  const world = proofWorld('turnstone-as-found');
  const set = (change: Values): ProofWorld => ({ ...world, values: { ...values, ...change } });
  const built = world.built!;
  const states = (proof: Proof, worlds: readonly ProofWorld[]) => worlds.map((w) => changedSince(proof, w));

  it('of an output go stale by themselves with what drives it, and come back when it is put back', () => {
    const proof = makeProof({ kind: 'moved', output: 4, actuator: 'elevator', first: 'up' }, world, at);
    expect(stateOf(proof, world)).toBe('proven');
    expect(
      states(proof, [
        set({ 'out.4.reversed': true }),
        set({ 'out.4.drives': 'rudder' }),
        set({ 'timer.2.sends': 'dshot600' }),
        { ...world, board: { ...world.board, serial: 'FF7-0107-15' } },
        { ...world, built: { ...built, pads: built.pads.filter((p) => p.output !== 4) } },
      ]),
    ).toEqual([['settings'], ['settings'], ['settings'], ['board'], ['build']]);
    expect(
      states(proof, [
        set({ 'return.height': 500 }),
        set({ 'out.5.reversed': true }),
        { ...world, scenario: { ...world.scenario, seed: 3 } },
        { ...world, built: { ...built, pads: built.pads.filter((p) => p.output !== 5) } },
      ]),
    ).toEqual([[], [], [], []]);
    expect(stateOf(undefined, world)).toBe('none');
  });

  it('of a tilt go stale with any output, its ends, the mixing, the mounting, the board, the soldering', () => {
    const seen = { kind: 'opposes', tilt: 'nose-up', tiltDeg: 20, surfaces: ['elevator'] } as const;
    const proof = makeProof({ ...seen, surfaces: [...seen.surfaces] }, world, at);
    expect(
      states(proof, [
        set({ 'mix.aileronUp': 0.5 }),
        set({ 'out.3.reversed': true }),
        set({ 'out.3.high': 1700 }),
        set({ 'mount.yaw': 90 }),
        { ...world, board: { ...world.board, target: 'massif-h7-b', serial: 'MH7-0219-04' } },
        { ...world, built: { ...built, mount: { rollDeg: 0, pitchDeg: 0, yawDeg: 90 } } },
        { ...world, airframe: { ...world.airframe, surfaces: [] } },
        set({ 'nav.speed': 20 }),
      ]),
    ).toEqual([['settings'], ['settings'], ['settings'], ['settings'], ['board'], ['build'], ['craft'], []]);
    expect(staleWords(proof, set({ 'mount.yaw': 90 }))).toBe('settings it rests on were changed');
    expect(staleWords(proof, world)).toBe('');
  });

  it('of a stick rest on its channel and the transmitter, not on the board', () => {
    const seen = { kind: 'stick', stick: 'pitch', channel: 2, fromUs: 1500, toUs: 1900 } as const;
    const proof = makeProof(seen, world, at);
    expect(
      states(proof, [
        set({ 'rx.pitch.channel': 4 }),
        set({ 'rx.pitch.pullHigh': false }),
        set({ 'rx.roll.channel': 4 }),
        { ...world, board: { ...world.board, serial: 'another' } },
        { ...world, built: { ...built, channels: { ...built.channels, pitch: 4 } } },
      ]),
    ).toEqual([['settings'], ['settings'], [], [], ['build']]);
  });

  it('of a rehearsal rest on everything that is flown; a batch on all but the wind it brings itself', () => {
    const flight = makeProof({ kind: 'flight', verdict: 'home', luck: false, seconds: 1 }, world, at);
    const winds = makeProof({ kind: 'winds', home: 240, total: 240 }, world, at);
    const other = [
      set({ 'nav.speed': 20 }),
      { ...world, airframe: { ...world.airframe, massKg: 3 } },
      { ...world, board: { ...world.board, target: 'massif-h7-b' } },
      { ...world, built: { ...built, baroShielded: !built.baroShielded } },
      { ...world, scenario: { ...world.scenario, outbound: { ...world.scenario.outbound, heightM: 200 } } },
    ];
    const all = [['settings'], ['craft'], ['board'], ['build'], ['scenario']];
    expect(states(flight, other)).toEqual(all);
    expect(states(winds, other)).toEqual(all);
    const windy = {
      ...world,
      scenario: { ...world.scenario, seed: 9, wind: { speedMps: 2, fromDeg: 0, gustMps: 0 } },
    };
    expect(states(flight, [windy, { ...world, board: { ...world.board, serial: 'another' } }])).toEqual([
      ['scenario'],
      [],
    ]);
    expect(states(winds, [windy])).toEqual([[]]);
  });

  it('do not care for the order in which a file lists things, nor for digits that no board keeps', () => {
    const proof = makeProof({ kind: 'flight', verdict: 'home', luck: false, seconds: 1 }, world, at);
    const { name, ...rest } = world.airframe;
    const shuffled = { ...rest, name, massKg: world.airframe.massKg + 1e-9 };
    expect(stateOf(proof, { ...world, airframe: shuffled })).toBe('proven');
  });

  it('are kept once a name, the newest', () => {
    const a = makeProof({ kind: 'still', output: 4 }, world, at);
    const b = makeProof({ kind: 'moved', output: 4, actuator: 'elevator', first: 'up' }, world, at);
    expect(withProof([a], b)).toEqual([b]);
  });

  it('together are as good as the worst', () => {
    expect(together(['proven', 'stale', 'none'])).toBe('stale');
    expect(together(['proven', 'none'])).toBe('none');
    expect(together(['proven', 'proven'])).toBe('proven');
    expect(together([])).toBe('none');
  });
});

describe('what was seen to be wrong', () => {
  const at = '2026-06-01T09:00:00Z';
  const w = proofWorld();
  const moved = makeProof({ kind: 'moved', output: 4, actuator: 'elevator', first: 'up' }, w, at);
  const right = makeProof({ kind: 'opposes', tilt: 'nose-up', tiltDeg: 20, surfaces: ['elevator'] }, w, at);
  const wrong = makeProof({ kind: 'follows', tilt: 'nose-up', tiltDeg: 20, wrong: ['elevator'] }, w, at);

  it('takes back what was seen to be right, and what was said of how the surface moves', () => {
    const proofs = withProof([moved, right], wrong);
    expect(proofs).toEqual([wrong]);
    expect(stateOf(wrong, w)).toBe('none');
    expect(withProof(proofs, right)).toEqual([right]);
  });

  it('blocks until what it rests on was changed', () => {
    const found = (world: ProofWorld) =>
      findAll({
        airframe: world.airframe,
        values: world.values,
        catalogue: pfadCatalogue,
        evidence: { proofs: [wrong], world },
      }).map((f) => [f.id, f.severity] as const);
    expect(found(w)).toContainEqual(['follows-tilt.nose-up', 'blocks']);
    const mended = { ...w, values: { ...w.values, 'out.4.reversed': w.values['out.4.reversed'] !== true } };
    expect(found(mended).map(([id]) => id)).not.toContain('follows-tilt.nose-up');
    expect(found(mended)).toContainEqual(['tried-before.opposes', 'caution']);
  });

  it('is a rotor that turns the other way; one that nobody looked at so is not', () => {
    const world = { ...w, airframe: avocet };
    const turned = (first: 'clockwise' | 'anticlockwise' | 'turned') =>
      turnsWrong(
        [makeProof({ kind: 'moved', output: 1, actuator: 'front-left-motor', first }, world, at)],
        world,
      );
    const { spin } = avocet.motors.find((m) => m.id === 'front-left-motor')!;
    expect(turned(spin)).toEqual([]);
    expect(turned('turned')).toEqual([]);
    expect(turned(spin === 'clockwise' ? 'anticlockwise' : 'clockwise')).toEqual(['front-left-motor']);
  });
});

describe('the direction that opposes a tilt', () => {
  it('raises the aileron of the wing that has to come down', () => {
    // Right wing down: the right wing has to rise, so its aileron goes down and the left one up.
    expect(opposingDirection('right-aileron', 'roll-right')).toBe('down');
    expect(opposingDirection('left-aileron', 'roll-right')).toBe('up');
    expect(opposingDirection('elevator', 'nose-up')).toBe('down');
    expect(opposingDirection('rudder', 'nose-up')).toBeNull();
  });
});

describe('proofs of the return', () => {
  const world = proofWorld();
  const set = (change: Values): ProofWorld => ({ ...world, values: { ...world.values, ...change } });
  const drill = { kind: 'lost-drill', noticedS: 0.8, actsS: 2.3, backS: 3.2, asDrawn: true } as const;

  it('a drill rests on its times, the receiver and the firmware, and not on the way home', () => {
    const proof = makeProof(drill, world, at);
    expect(stateOf(proof, set({ 'lost.notice': 1.2 }))).toBe('stale');
    expect(stateOf(proof, set({ 'rx.protocol': 'sbus' }))).toBe('stale');
    expect(stateOf(proof, { ...world, board: { ...world.board, version: '3.1' } })).toBe('stale');
    expect(staleWords(proof, { ...world, board: { ...world.board, version: '3.1' } })).toMatch(
      /another firmware/,
    );
    expect(stateOf(proof, set({ 'return.height': 300, 'lost.action': 'glide' }))).toBe('proven');
    expect(stateOf(makeProof({ ...drill, asDrawn: false }, world, at), world)).toBe('none');
  });

  it('a map of the reach rests on all that was flown with, and has to be right nine times in ten', () => {
    const reach = { kind: 'reach', right: 23, flown: 24, share: 0.7, batteryShare: 0.75 } as const;
    const proof = makeProof(reach, world, at);
    expect(stateOf(proof, world)).toBe('proven');
    expect(stateOf(proof, set({ 'return.speed': 16 }))).toBe('stale');
    const wind = { speedMps: 3, fromDeg: 230, gustMps: 1 };
    expect(stateOf(proof, { ...world, scenario: { ...world.scenario, wind } })).toBe('stale');
    expect(stateOf(proof, { ...world, scenario: { ...world.scenario, seed: 9, limitS: 900 } })).toBe(
      'proven',
    );
    expect(stateOf(makeProof({ ...reach, right: 20 }, world, at), world)).toBe('none');
  });
});
