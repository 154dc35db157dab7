import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { prepared } from '../../testing/aloft.ts';
import { anyChanges } from '../../testing/anySettings.ts';
import { demoValues, torvholm } from '../../testing/demoCraft.ts';
import { proofWorld } from '../../testing/proofWorld.ts';
import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { avocet, flock, knot, plainCraft, ruff, turnstone } from '../airframe/library.ts';
import { knownDescription } from '../board/boardRef.ts';
import { fellF7 } from '../board/fellF7.ts';
import type { Wishes } from '../board/wishes.ts';
import { switchedModes } from '../modes/modes.ts';
import { makeProof, type ProofWorld, type Seen } from '../proofs/proofs.ts';
import type { Values } from '../settings/catalogue.ts';
import { findAll } from './findings.ts';
import { legProgress, type ProgressInput, stationProgress } from './progress.ts';

const good = demoValues('turnstone');
const ground = { terrain: torvholm, homeEastM: 0, homeNorthM: -2449 };
const find = (change: Values, airframe = turnstone) =>
  findAll({
    airframe,
    values: { ...good, ...change },
    catalogue: pfadCatalogue,
    description: fellF7,
    ground,
  });

/** Each mistake, and the finding it must raise. */
const mistakes: readonly (readonly [string, Values, string])[] = [
  ['nothing happens on lost link', { 'lost.action': 'nothing' }, 'lost-nothing'],
  ['the motors stop on lost link', { 'lost.action': 'cut' }, 'lost-cut'],
  ['help comes late', { 'lost.guard': 20 }, 'lost-late'],
  ['the return height is in the grass', { 'return.height': 20 }, 'return-low'],
  ['the return height is below the ridge', { 'return.height': 200 }, 'return-below-ridge'],
  ['the way home keeps any height', { 'return.climb': 'keep-height' }, 'return-keeps-height'],
  ['the circle is tighter than the turn', { 'loiter.radius': 20 }, 'loiter-tight'],
  ['the return speed is near the stall', { 'return.speed': 11.2, 'nav.speedFloor': 10 }, 'return-slow'],
  ['the bank stalls it', { 'level.bank': 72 }, 'bank-stall'],
  ['stall protection is at the stall', { 'nav.speedFloor': 8 }, 'floor-low'],
  ['an output is used twice', { 'out.7.drives': 'rudder' }, 'output-twice.rudder'],
  ['a surface has no output', { 'out.5.drives': 'nothing' }, 'no-output.rudder'],
  ['a motor has no output', { 'out.1.drives': 'nothing' }, 'no-output.right-motor'],
  [
    'an output is beyond the board',
    { 'out.4.drives': 'nothing', 'out.10.drives': 'elevator' },
    'output-not-there.10',
  ],
  ['an output drives what is not there', { 'out.8.drives': 'motor' }, 'not-fitted.8'],
  ['ends are inverted', { 'out.3.low': 1500, 'out.3.centre': 1400 }, 'ends-inverted.3'],
  ['a servo hardly moves', { 'out.3.centre': 1900 }, 'ends-narrow.3'],
  ['a servo is driven too fast', { 'timer.2.rate': '400' }, 'servo-rate.3'],
  ['no switch arms', { 'arm.channel': 0 }, 'arm-unset'],
  ['a mode is on a stick', { 'mode.level.channel': 4 }, 'switch-on-stick.mode.level'],
  ['arming and return share a switch', { 'mode.return.channel': 5 }, 'arm-and-return'],
  ['no switch levels', { 'mode.level.channel': 0 }, 'level-unset'],
  ['no switch brings it home', { 'mode.return.channel': 0 }, 'return-unset'],
  ['it arms without home', { 'arm.needFix': false }, 'return-without-home'],
  ['the cells are others', { 'battery.cells': 3 }, 'cells'],
  ['the board would refuse it', { 'battery.empty': 3.9 }, 'refused.battery.empty'],
];

describe('findings', () => {
  it('are none for the craft put right', () => {
    expect(find({})).toEqual([]);
  });

  it.each(mistakes)('say when %s', (_name, change, id) => {
    const found = find(change).find((f) => f.id === id);
    expect(found).toBeDefined();
    expect(found!.title.length).toBeGreaterThan(10);
    expect(found!.why).toMatch(/\.$/);
  });

  it.each(mistakes)('offer a fix that removes it: %s', (_name, change, id) => {
    const fix = find(change).find((f) => f.id === id)?.fix;
    if (!fix) return;
    expect(find({ ...change, ...fix.edits }).map((f) => f.id)).not.toContain(id);
    for (const [key, value] of Object.entries(fix.edits))
      expect(pfadCatalogue.checkValue(key, value)).toBeNull();
  });

  it('see a tail-heavy and a nose-heavy craft', () => {
    expect(find({}, { ...turnstone, cgAftM: 0.46 }).map((f) => f.id)).toContain('cg-aft');
    expect(find({}, { ...turnstone, cgAftM: 0.4 }).map((f) => f.id)).toContain('cg-forward');
  });

  it('put those that block flight first', () => {
    const found = find({ 'battery.cells': 3, 'lost.action': 'nothing' });
    expect(found.map((f) => f.severity)).toEqual(['blocks', 'caution']);
  });

  it('find the honest mistakes of the craft as found', () => {
    const found = findAll({
      airframe: turnstone,
      values: demoValues('turnstone-as-found'),
      catalogue: pfadCatalogue,
      ground,
    });
    expect(found.map((f) => f.id)).toEqual(['lost-cut', 'return-below-ridge']);
  });
});

describe('every switch', () => {
  const ids = ['arm', 'flap', 'set', ...switchedModes.map((m) => `mode.${m}`)];
  it.each(ids)('%s on a stick blocks', (id) => {
    for (const stick of ['roll', 'pitch', 'throttle', 'yaw']) {
      const channel = good[`rx.${stick}.channel`]!;
      const found = find({ [`${id}.channel`]: channel }).find((f) => f.id === `switch-on-stick.${id}`);
      expect(found?.severity).toBe('blocks');
      expect(found?.title).toContain(`is on the ${stick} stick`);
      expect(found?.keys).toEqual([`${id}.channel`, `rx.${stick}.channel`]);
    }
  });
});

describe('findings for craft with rotors', () => {
  const withRotors = (change: Values, airframe: Airframe = avocet) =>
    findAll({
      airframe,
      values: prepared(airframe, change),
      catalogue: pfadCatalogue,
      description: fellF7,
      ground,
    });

  it.each(
    [avocet, ruff, plainCraft('quad-plus'), plainCraft('hex'), plainCraft('y6')].map(
      (a) => [a.name, a] as const,
    ),
  )('are none for %s on its starting values', (_name, airframe) => {
    expect(withRotors({}, airframe).filter((f) => f.severity === 'blocks')).toEqual([]);
  });

  const rotorMistakes: readonly (readonly [string, Values, string])[] = [
    ['the board flies another kind', { 'craft.kind': 'hex' }, 'craft-kind'],
    ['no compass gives a heading', { 'compass.fitted': false }, 'no-heading'],
    ['rotors get their pulses slowly', { 'timer.1.rate': '50' }, 'slow-rotors'],
    ['the way home is as fast as it can lean', { 'return.speed': 25 }, 'return-fast'],
    ['the return height is in the grass', { 'return.height': 20 }, 'return-low'],
    ['a rotor has no output', { 'out.1.drives': 'nothing' }, 'no-output'],
  ];

  it.each(rotorMistakes)('say when %s, and mend it', (_name, change, id) => {
    const found = withRotors(change).find((f) => f.id.startsWith(id));
    expect(found).toBeDefined();
    if (!found!.fix) return;
    const after = withRotors({ ...change, ...found!.fix.edits }).map((f) => f.id);
    expect(after).not.toContain(found!.id);
  });

  it('say nothing of stalls and circles, which rotors do not know', () => {
    const found = withRotors({ 'loiter.radius': 10, 'level.bank': 60, 'nav.speedFloor': 5 }).map((f) => f.id);
    for (const id of ['loiter-tight', 'bank-stall', 'floor-low', 'return-slow', 'cg-aft'])
      expect(found).not.toContain(id);
  });
});

describe('findings for any wing on its starting values', () => {
  it.each(flock.filter((a) => !isRotorcraft(a)).map((a) => [a.name, a] as const))(
    'do not block: %s',
    (_name, airframe) => {
      const found = findAll({
        airframe,
        values: prepared(airframe),
        catalogue: pfadCatalogue,
        description: fellF7,
        ground,
      });
      expect(found.filter((f) => f.severity === 'blocks')).toEqual([]);
    },
  );
});

describe('findings on the board that the craft is for', () => {
  const on = (target: string, change: Values) =>
    findAll({
      airframe: turnstone,
      values: { ...good, ...change },
      catalogue: pfadCatalogue,
      description: knownDescription({ target }) ?? undefined,
      ground,
    });
  const tenth = { 'out.4.drives': 'nothing', 'out.10.drives': 'elevator' };

  it('tell an output that it does not have, with a way out that ends it', () => {
    const found = on('fell-f7', tenth).find((f) => f.id === 'output-not-there.10')!;
    expect(found.severity).toBe('blocks');
    expect(found.title).toBe('Output 10 drives the elevator, and Fell F7 has no output 10');
    expect(found.fix!.edits).toEqual({ 'out.10.drives': 'nothing', 'out.4.drives': 'elevator' });
    expect(on('fell-f7', { ...tenth, ...found.fix!.edits })).toEqual([]);
  });

  it('are none where the board has it, nor where nobody knows the board', () => {
    for (const target of ['massif-h7-b', 'granite-x1'])
      expect(on(target, tenth).filter((f) => f.id.startsWith('output-'))).toEqual([]);
  });
});

describe('findings on the wiring', () => {
  const wired = (target: string, wishes: Partial<Wishes>, airframe = turnstone) =>
    findAll({
      airframe,
      values: good,
      catalogue: pfadCatalogue,
      description: knownDescription({ target })!,
      ground,
      wiring: { wishes: { outputs: [], serial: [], buses: [], ...wishes } },
    });

  it('block what cannot all be connected', () => {
    const servo = { name: 's', kind: 'servo-pwm' as const };
    expect(wired('fell-f7', { outputs: Array(9).fill(servo) })[0]?.id).not.toBe('wiring-collides');
    const found = wired('fell-f7', { outputs: Array(10).fill(servo) });
    expect(found[0]).toMatchObject({ id: 'wiring-collides', severity: 'blocks', leg: 'build' });
  });

  it('count a bus as it is laid out, and caution before it is full', () => {
    const flow = { device: 'flow' as const, kind: 'i2c' as const };
    const many = Array.from({ length: 16 }, (_, i) => ({ ...flow, address: 16 + i }));
    // Each takes 100 readings of 26 bytes of nine bits, of 400,000: 5.9 %. Sixteen on one bus are 94 % and the barometer's.
    const full = wired('cobble-f4-wing', { buses: many }).find((f) => f.id === 'bus-budget.I2C 1');
    expect(full).toMatchObject({ severity: 'caution', why: expect.stringContaining('95 %') });
    expect(wired('cobble-f4-wing', { buses: many.slice(0, 4) }).map((f) => f.id)).not.toContain(
      'bus-budget.I2C 1',
    );
  });

  it('block a pack above what the board takes, and are silent about a board they do not know', () => {
    const six = { ...turnstone, battery: { ...turnstone.battery, cells: 6 } };
    expect(wired('cobble-f4-wing', {}, six).map((f) => f.id)).toContain('power.1');
    expect(wired('pebble', {}).filter((f) => f.station === 'wiring')).toEqual([]);
  });
});

describe('findings on ports, timers and what their wires carry', () => {
  const mistakes: readonly (readonly [string, Values, string, 'blocks' | 'caution'])[] = [
    ['a servo is sent frames', { 'timer.2.sends': 'dshot600' }, 'servo-frames', 'blocks'],
    ['nobody listens to the receiver', { 'port.2.use': 'free' }, 'no-port.receiver', 'blocks'],
    ['nobody listens to the GNSS receiver', { 'port.3.use': 'camera' }, 'no-port.gnss', 'blocks'],
    ['the link is given away', { 'port.1.use': 'free' }, 'link-port', 'blocks'],
    [
      '10 Hz with the sky are asked through 9600 baud',
      { 'gnss.baud': '9600', 'gnss.rate': '10' },
      'gnss-budget',
      'blocks',
    ],
    ['5 Hz with the sky are asked through 9600 baud', { 'gnss.baud': '9600' }, 'gnss-budget', 'blocks'],
  ];

  it.each(mistakes)('say when %s, and mend it', (_what, change, id, severity) => {
    const driven = { 'out.3.drives': 'rudder', ...change };
    const found = find(driven).find((f) => f.id.startsWith(id))!;
    expect(found).toMatchObject({ severity, station: 'wiring' });
    expect(find({ ...driven, ...found.fix!.edits }).map((f) => f.id)).not.toContain(found.id);
  });

  it('give the numbers', () => {
    const { why } = find({ 'gnss.baud': '9600', 'gnss.rate': '5' }).find((f) => f.id === 'gnss-budget')!;
    expect(why).toMatch(/5 solutions a second .* are 1426 bytes a second; at 9600 baud 960 come through/);
  });

  it('say when a port lies on the pins of a driven output', () => {
    const found = find({ 'port.6.use': 'camera', 'out.9.drives': 'left-flap' }).find((f) =>
      f.id.startsWith('shared-pins'),
    );
    expect(found?.why).toMatch(/one of the two would be dead/);
    expect(find({ 'port.6.use': 'camera' }).map((f) => f.id)).not.toContain('shared-pins.6');
  });

  it('are none for motors that are sent frames, however slow the pulses would be', () => {
    const ids = find({ 'timer.1.sends': 'dshot600' }).map((f) => f.id);
    expect(ids.filter((id) => /frames|slow-rotors/.test(id))).toEqual([]);
  });
});

describe('findings on settings drawn by chance', () => {
  it('never throw, have a sentence each, and name and offer only what the board knows', () => {
    fc.assert(
      fc.property(anyChanges(), fc.constantFrom(turnstone, knot, avocet, ruff), (change, airframe) => {
        for (const f of find(change, airframe)) {
          expect(f.why).toMatch(/[.?)]$/);
          for (const key of f.keys) expect(pfadCatalogue.entry(key)).toBeDefined();
          for (const [key, value] of Object.entries(f.fix?.edits ?? {}))
            expect(pfadCatalogue.checkValue(key, value)).toBeNull();
        }
      }),
    );
  });
});

describe('progress on the trail', () => {
  const input: ProgressInput = {
    world: proofWorld('turnstone', { airframe: turnstone, values: good }),
    proofs: [],
    findings: [],
    boardMet: true,
    kept: true,
    pendingKeys: [],
  };

  it('is open until something was seen, proven then, and stale when what it rests on changes', () => {
    const seen = [1, 2, 3, 4, 5, 6].map((n) =>
      makeProof(
        {
          kind: 'moved',
          output: n,
          actuator: good[`out.${n}.drives`] as 'rudder',
          first: n < 3 ? 'turned' : 'down',
        },
        input.world,
        '2026-06-01T09:00:00Z',
      ),
    );
    expect(stationProgress('which-moved', input)).toBe('open');
    expect(stationProgress('which-moved', { ...input, proofs: seen })).toBe('proven');
    const world = { ...input.world, values: { ...good, 'out.4.reversed': false } };
    expect(stationProgress('which-moved', { ...input, proofs: seen, world })).toBe('stale');
    expect(legProgress('steer', { ...input, proofs: seen, world })).toBe('stale');
  });

  it('is blocked by a finding that blocks, whatever was seen', () => {
    const findings = find({ 'lost.action': 'nothing' });
    expect(stationProgress('lost-link', { ...input, findings })).toBe('blocked');
    expect(legProgress('return', { ...input, findings })).toBe('blocked');
  });

  it('asks for a new flight when anything changed since the last, and for another end where it was not home', () => {
    const flown = (seen: Seen, id: 'one-flight' | 'many-winds', change: Partial<ProofWorld> = {}) =>
      stationProgress(id, {
        ...input,
        proofs: [makeProof(seen, input.world, '2026-06-01T09:00:00Z')],
        world: { ...input.world, ...change },
      });
    const home = { kind: 'flight', verdict: 'home', luck: false, seconds: 400 } as const;
    expect(flown(home, 'one-flight')).toBe('proven');
    expect(flown({ ...home, luck: true }, 'one-flight')).toBe('open');
    expect(flown({ ...home, verdict: 'terrain' }, 'one-flight')).toBe('open');
    expect(flown(home, 'one-flight', { values: { ...good, 'return.height': 300 } })).toBe('stale');
    const winds = { kind: 'winds', home: 240, total: 240 } as const;
    expect(flown(winds, 'many-winds')).toBe('proven');
    expect(flown({ ...winds, home: 239 }, 'many-winds')).toBe('open');
    expect(flown(winds, 'many-winds', { airframe: { ...turnstone, massKg: 2.5 } })).toBe('stale');
  });
});
