import { outerBus } from '#core/board/boards.ts';
import { i2cShare } from '#core/board/budget.ts';
import { sensorsOutside } from '#core/board/craftWishes.ts';
import type { Pfad } from './pfad.ts';
import type { Readings } from './readings.ts';

/**
 * What the board counts of itself, in the order of the telemetry group `services`. How busy its processor is it does not tell: this
 * stand-in has none to measure that on.
 * @param lateS how late anything was told since this was last asked for @param damaged frames of the link that came damaged
 */
export function servicesOf(pfad: Pfad, r: Readings, lateS: number, damaged: number): number[] {
  const { values, model, streams, log } = pfad;
  const { busKhz } = pfad.controller.config;
  const onBoard = outerBus(model).onBoard.map((d) => d.device);
  return [
    ...[r.imus[0].samples, r.baro.samples],
    ...[1000 * lateS, damaged, streams.count],
    ...[log?.used ?? 0, log?.room ?? 0],
    ...[busKhz, i2cShare(sensorsOutside(values), onBoard, 1000 * busKhz), r.busReads, r.busErrors],
  ];
}
