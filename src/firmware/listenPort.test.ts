import { describe, expect, it } from 'vitest';
import { Devices } from '#bench/devices.ts';
import { flashWith } from '#bench/flashImage.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { Plant } from '#core/flight/plant.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';
import { Pfad } from './pfad.ts';

const craft = demoCraft('turnstone');

/** A board and what hangs on it, listening; how long it took by the board's time. */
function listen(change: Partial<BenchTruth>, baud: string, fault: 'none' | 'dead' = 'none') {
  const values = { ...demoValues('turnstone'), 'gnss.baud': baud };
  const pfad = new Pfad(fellF7Model, flashWith(values), 'TEST', 'power on');
  const truth = { ...craft.bench!, ...change };
  const devices = new Devices(new Plant(craft.airframe), truth, values, torvholm, 5, fellF7Model);
  devices.fail('gnss', fault);
  const step = () => {
    devices.step(true, 0.001);
    pfad.step(devices.readings);
  };
  for (let ms = 0; ms < 500; ms++) step();
  pfad.procedures.start(1, 'listen-port', pfad.controller, devices.readings);
  const from = pfad.uptimeS;
  while (pfad.procedures.report(1).state === 'running' && pfad.uptimeS - from < 20) step();
  const { state, result } = pfad.procedures.report(1);
  return { state, result, seconds: pfad.uptimeS - from, listensAt: devices.readings.gnssPortBaud };
}

const speeds = [9600, 38400, 57600, 115200];
const usual = { start: 'warm', hz: 5 } as const;

describe('listening at every speed', () => {
  it.each(
    speeds.flatMap((truth) =>
      speeds.flatMap((set) => [false, true].map((swapped) => [truth, set, swapped] as const)),
    ),
  )('finds a receiver at %s while the port says %s, its wires crossed: %s', (truth, set, swapped) => {
    const heard = listen({ gnssBaud: truth, gnss: { ...usual, swapped } }, String(set));
    expect(heard).toMatchObject({
      state: 'done',
      result: { kind: 'found', baud: truth, crossed: swapped },
      listensAt: 0,
    });
    expect(heard.seconds).toBeLessThan(8);
  });

  it('names silence, of a receiver that is dead or hangs on another port', () => {
    expect(listen({}, '38400', 'dead').result).toMatchObject({ kind: 'silent' });
    const other = listen({ ports: { receiver: 2, gnss: 5 } }, '38400');
    expect(other.result).toMatchObject({ kind: 'silent' });
    expect(other.seconds).toBeLessThan(8);
  });

  it('says that bytes are no sentences where the receiver speaks at none of the speeds', () => {
    expect(listen({ gnssBaud: 19200 }, '38400').result).toMatchObject({ kind: 'garbage' });
  });
});
