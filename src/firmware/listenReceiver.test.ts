import { describe, expect, it } from 'vitest';
import { Devices } from '#bench/devices.ts';
import { flashWith } from '#bench/flashImage.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { Plant } from '#core/flight/plant.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';
import { Pfad } from './pfad.ts';

const craft = demoCraft('turnstone');
const protocols = ['crsf', 'sbus', 'pulse-train'] as const;

/** A board that listens for its receiver, and hears the pilot again afterwards. */
function listen(
  receiver: BenchTruth['receiver'],
  set: (typeof protocols)[number],
  on = true,
  port = 2,
  change: Values = {},
) {
  const values = { ...demoValues('turnstone'), 'rx.protocol': set, ...change };
  const pfad = new Pfad(fellF7Model, flashWith(values), 'TEST', 'power on');
  const ports = { ...craft.bench!.ports, receiver: port };
  const truth = { ...craft.bench!, receiver, ports };
  const devices = new Devices(new Plant(craft.airframe), truth, values, torvholm, 5, fellF7Model);
  devices.radio.on = on;
  const step = (ms: number) => {
    for (let k = 0; k < ms; k++) {
      devices.step(true, 0.001);
      pfad.step(devices.readings);
    }
  };
  step(500);
  pfad.procedures.start(1, 'listen-receiver', pfad.controller, devices.readings, { ports: '4,5' });
  const from = pfad.uptimeS;
  while (pfad.procedures.report(1).state === 'running' && pfad.uptimeS - from < 10) step(1);
  const seconds = pfad.uptimeS - from;
  step(500);
  const { result } = pfad.procedures.report(1);
  return { result, seconds, hears: pfad.controller.input.linkAlive };
}

describe('listening for every protocol', () => {
  it.each(protocols.flatMap((speaks) => protocols.map((set) => [speaks, set] as const)))(
    'finds %s while the board is set to %s, and leaves the port as it was',
    (protocol, set) => {
      const heard = listen({ protocol, onLoss: 'stop' }, set);
      expect(heard.result).toMatchObject({ kind: 'found', protocol });
      expect(heard.seconds).toBeLessThan(3);
      expect(heard.hears).toBe(protocol === set);
    },
  );

  it('names silence: no transmitter, one that it was never taught, another port', () => {
    expect(listen({ protocol: 'sbus', onLoss: 'stop' }, 'sbus', false).result).toMatchObject({
      kind: 'silent',
    });
    const unbound = listen({ protocol: 'sbus', onLoss: 'stop', unbound: true }, 'sbus');
    expect(unbound.result).toMatchObject({ kind: 'silent' });
    // At a port that is for something else nobody looks.
    expect(listen({ protocol: 'sbus', onLoss: 'stop' }, 'sbus', true, 3).result).toMatchObject({
      kind: 'silent',
    });
  });

  it.each(['crsf', 'sbus'] as const)('finds %s with its levels turned round, and on one wire', (protocol) => {
    const wires = [{ turned: true }, { oneWire: true }, { turned: true, oneWire: true }];
    for (const wire of wires) {
      const receiver = { protocol, onLoss: 'stop' as const, ...wire };
      const { turned = false, oneWire = false } = wire;
      const heard = listen(receiver, protocol);
      expect(heard.result).toMatchObject({ kind: 'found', protocol, turned, oneWire, port: 0 });
      expect(heard.hears).toBe(false);
      // Set so, the board hears it.
      const set = { 'rx.levels': turned ? 'turned' : 'usual', 'rx.wires': oneWire ? 'one' : 'two' };
      expect(listen(receiver, protocol, true, 2, set).hears).toBe(true);
    }
  });

  it.each(protocols)('finds %s at a port that is set for nothing', (protocol) => {
    const heard = listen({ protocol, onLoss: 'stop' }, protocol, true, 5);
    expect(heard.result).toMatchObject({ kind: 'found', protocol, turned: false, port: 5 });
    expect(heard.hears).toBe(false);
    expect(heard.seconds).toBeLessThan(8);
  });
});
