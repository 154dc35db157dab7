import { outerBus } from '#core/board/boards.ts';
import { i2cShare } from '#core/board/budget.ts';
import type { BusWish } from '#core/board/wishes.ts';
import { settingOf } from '#core/settings/typed.ts';
import { type Pfad, STEP_S } from './pfad.ts';
import type { Readings } from './readings.ts';

/**
 * How busy a board is. The time that one loop takes goes by its processor, the filters in its way and what streams are asked of it;
 * there is no processor here to measure it on, so it is reckoned from these.
 */

/** By the family in a board's target: us of a loop without filters, of each filter and each stream; kB of memory. */
const families = [
  { of: /f4/, loopUs: 96, filterUs: 14, streamUs: 9, memoryKb: 62 },
  { of: /f7/, loopUs: 52, filterUs: 7, streamUs: 5, memoryKb: 218 },
  { of: /h7/, loopUs: 24, filterUs: 3, streamUs: 2, memoryKb: 540 },
] as const;

const STREAM_KB = 3.5;

export function servicesOf(pfad: Pfad, r: Readings): number[] {
  const { values, model, streams } = pfad;
  const family = families.find((f) => f.of.test(model.target)) ?? families[0];
  const loopHz = Math.round(1 / STEP_S);
  const filters = 2 + (settingOf(values, 'log.loops') === true ? 1 : 0);
  const loopUs = family.loopUs + filters * family.filterUs + streams.count * family.streamUs;
  const devices: BusWish[] = [];
  if (settingOf(values, 'compass.fitted') === true) devices.push({ device: 'compass', kind: 'i2c' });
  if (settingOf(values, 'pitot.fitted') === true) devices.push({ device: 'airspeed', kind: 'i2c' });
  if (settingOf(values, 'range.fitted') === true) devices.push({ device: 'rangefinder', kind: 'i2c' });
  if (settingOf(values, 'flow.fitted') === true) devices.push({ device: 'flow', kind: 'i2c' });
  const { busKhz } = pfad.controller.config;
  const share = i2cShare(
    devices,
    outerBus(model).onBoard.map((d) => d.device),
    busKhz * 1000,
  );
  return [
    loopHz,
    loopUs,
    (loopHz * loopUs) / 1e6,
    family.memoryKb - streams.count * STREAM_KB,
    busKhz,
    share,
    r.busReads,
    r.busErrors,
  ];
}
