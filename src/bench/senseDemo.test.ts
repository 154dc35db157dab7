import { describe, expect, it } from 'vitest';
import { turnstone } from '#core/airframe/library.ts';
import { boardOf } from '#core/board/boards.ts';
import { confirmWing, mountingFrom } from '#core/calibration/mounting.ts';
import { type Attitude, attitudeOf, poseIds, poses } from '#core/calibration/poses.ts';
import { fitPoses, type PoseTaken } from '#core/calibration/sixPoses.ts';
import { parseScenario } from '#core/formats/scenario.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Triple } from '#core/math/triple.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { aloft, run } from '../testing/aloft.ts';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';
import { BenchBoard, shelfFor } from './benchBoard.ts';
import { BenchWorld } from './benchWorld.ts';
import { tiltBetween } from './judge/evidence.ts';
import { rehearse } from './rehearsal.ts';

const found = demoCraft('turnstone-as-found');
const truth = found.bench!;

/** What the first chip says on the bench in an attitude, mean of a second. */
function felt(world: BenchWorld, pose: Attitude): Triple {
  world.controls.pose = pose;
  world.controls.support = 'propped';
  for (let k = 0; k < 3000; k++) world.step();
  const sum = [0, 0, 0];
  for (let k = 0; k < 1000; k++) {
    world.step();
    for (let i = 0; i < 3; i++) sum[i]! += world.readings!.imus[0].accel[i]!;
  }
  return [sum[0]! / 1000, sum[1]! / 1000, sum[2]! / 1000];
}

/** The lessons as they are done on the bench, with the craft as it was found. */
function learnt(): Values {
  const board = BenchBoard.fresh(shelfFor('fell-f7')[0]!, demoValues('turnstone-as-found'));
  const world = new BenchWorld(turnstone, truth, board, 11, torvholm);
  world.controls.usb = true;
  const flat = felt(world, attitudeOf(0, 0, 23));
  const mount = mountingFrom(flat, felt(world, attitudeOf(0, 35, 23)))!;
  expect(confirmWing(mount.attitude, felt(world, attitudeOf(30, 0, 23)))).toMatchObject({ kind: 'fits' });
  const taken = Object.fromEntries(
    poseIds.map((id) => [id, felt(world, attitudeOf(poses[id].rollDeg, poses[id].pitchDeg, 23))]),
  ) as PoseTaken;
  const fit = fitPoses(taken);
  if ('refused' in fit) throw new Error(fit.refused);
  expect(fit.worstBefore).toBeGreaterThan(0.15);
  expect(fit.worstAfter).toBeLessThan(0.02);
  const { offset, scale } = fit.calibration;
  return {
    'mount.roll': mount.square.rollDeg,
    'mount.pitch': mount.square.pitchDeg,
    'mount.yaw': mount.square.yawDeg,
    ...Object.fromEntries(
      (['x', 'y', 'z'] as const).flatMap((k, i) => [
        [`accel.1.offset.${k}`, Math.round(offset[i]! * 1000) / 1000],
        [`accel.1.scale.${k}`, Math.round(scale[i]! * 1e4) / 1e4],
      ]),
    ),
  };
}

const lessons = learnt();

/** Out to the northeast, the link lost there. */
function lostOut(speedMps: number, gustMps: number) {
  const read = parseScenario(
    {
      seed: 7,
      home: torvholm.home,
      wind: { speedMps, fromDeg: 230, gustMps },
      outbound: { bearingDeg: 50, distanceM: 2500, heightM: 120 },
      events: [{ atS: 180, do: 'link-lost' }],
      limitS: 1500,
    },
    torvholm,
  );
  if (!read.ok) throw new Error(read.why);
  return read.scenario;
}

describe('the demo as it was found, after the lessons', () => {
  it('has its board where it is', () => {
    expect(lessons).toMatchObject({ 'mount.roll': -90, 'mount.pitch': 0, 'mount.yaw': -90 });
  });

  it('takes itself to lie on its side, before them', () => {
    const board = BenchBoard.fresh(shelfFor('fell-f7')[0]!, demoValues('turnstone-as-found'));
    const world = new BenchWorld(turnstone, truth, board, 11, torvholm);
    world.controls.usb = true;
    felt(world, attitudeOf(0, 0, 23));
    const { attitude } = world.pfad!.controller.attitude;
    expect(tiltBetween(world.plant.attitude, attitude) / DEG).toBeGreaterThan(60);
  });

  it('knows its attitude within 1.5 degrees in a flown circuit', () => {
    const f = aloft(turnstone, { change: lessons, truth: { mount: truth.mount, accels: truth.accels } });
    f.radio.attitude = 1;
    run(f, 8);
    let squares = 0;
    let n = 0;
    let k = 0;
    // Straight, a turn, straight, a turn: a circuit of two minutes.
    run(f, 120, () => {
      f.radio.roll = Math.floor(k / 20_000) % 2 === 1 ? 0.5 : 0;
      if (k++ % 100 !== 0) return;
      squares += tiltBetween(f.plant.attitude, f.pfad.controller.attitude.attitude) ** 2;
      n++;
    });
    expect(Math.sqrt(squares / n) / DEG).toBeLessThan(1.5);
  });

  const fly = (values: Values) =>
    rehearse({
      airframe: turnstone,
      board: boardOf('fell-f7')!,
      values: { ...demoValues('turnstone'), ...values },
      truth,
      scenario: lostOut(8, 2),
      site: torvholm,
    });

  /** What the drill of the silent radio finds of its receiver. */
  const { noneUs, fullUs, channel } = truth.receiver.quality!;
  const unmasked = { 'rx.quality.channel': channel, 'rx.quality.none': noneUs, 'rx.quality.full': fullUs };

  it('comes home, and does not without one of them', () => {
    const all = { ...lessons, 'battery.scale': 1.04, ...unmasked };
    expect(fly(all).verdict).toBe('home');
    // Its receiver hides the loss: it flies on into the ridge.
    expect(fly({ ...all, 'rx.quality.channel': 0 }).verdict).not.toBe('home');
    expect(fly({})).toMatchObject({ verdict: 'not-flown' });
    expect(fly({ ...lessons, 'gnss.baud': '9600' })).toMatchObject({ verdict: 'not-flown' });
  }, 60_000);
});

describe('the demo multirotor with its compass over the battery lead', () => {
  const craft = demoCraft('avocet');
  const fly = (values: Values) =>
    rehearse({
      airframe: craft.airframe,
      board: boardOf('fell-f7')!,
      values: { ...craft.settings, ...values },
      truth: craft.bench!,
      scenario: lostOut(0, 0),
      site: torvholm,
    });

  it('does not come home untaught, and does when it was taught', () => {
    expect(fly({}).verdict).not.toBe('home');
    const { x, y, z, perAmp } = craft.bench!.iron;
    expect(
      fly({
        'compass.x': x,
        'compass.y': y,
        'compass.z': z,
        'compass.perAmp.x': 0.5 * perAmp,
        'compass.perAmp.y': 0.3 * perAmp,
        'compass.perAmp.z': 0.8 * perAmp,
      }).verdict,
    ).toBe('home');
  }, 60_000);
});
