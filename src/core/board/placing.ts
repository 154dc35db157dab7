import { describeBoard } from './describe.ts';
import type { BoardModel } from './model.ts';
import type { Assignment } from './solve.ts';
import type { OutputWish, SerialWish, Wishes } from './wishes.ts';

/** Wishes after a person said where something is to be. */

/** A wire's end that a person took up: an output by its number, or a port by its name. */
export type WireEnd = { readonly output: number } | { readonly port: string };

/** Puts one output's wish on a pad, 0 for any; whatever was wished there may go anywhere. */
export const placed = (outputs: Wishes['outputs'], wish: OutputWish, at: number): Wishes['outputs'] =>
  outputs.map((o) => {
    const { output, ...free } = o;
    if (o === wish) return at > 0 ? { ...free, output: at } : free;
    return at > 0 && output === at ? free : o;
  });

/** The same for a device and a port; an empty name is any. */
export const ported = (serial: Wishes['serial'], wish: SerialWish, at: string): Wishes['serial'] =>
  serial.map((s) => {
    const { port, ...free } = s;
    if (s === wish) return at ? { ...free, port: at } : free;
    return at && port === at ? free : s;
  });

/** The wishes after a wire was drawn elsewhere; what was there before is free to go anywhere. */
export function moved(wishes: Wishes, assignment: Assignment, from: WireEnd, to: WireEnd): Wishes {
  if ('output' in from && 'output' in to) {
    const on = assignment.outputs.find((a) => a.output === from.output)?.wish;
    const wish = on && wishes.outputs.find((o) => sameWish(o, on));
    return wish ? { ...wishes, outputs: placed(wishes.outputs, wish, to.output) } : wishes;
  }
  if ('port' in from && 'port' in to) {
    const on = assignment.serial.find((a) => a.port === from.port)?.wish;
    const wish = on && wishes.serial.find((s) => sameWish(s, on));
    return wish ? { ...wishes, serial: ported(wishes.serial, wish, to.port) } : wishes;
  }
  return wishes;
}

const sameWish = (a: object, b: object) => JSON.stringify(a) === JSON.stringify(b);

/** The same wishes for a board to which nothing is soldered yet but the link to here. */
export function loose(w: Wishes, board: BoardModel): Wishes {
  const link = describeBoard(board).ports.find((p) => p.link);
  return {
    outputs: w.outputs.map(({ output: _, ...o }) => o),
    serial: w.serial.map(({ port: _, ...s }) => s),
    buses: w.buses.map(({ bus: _, ...b }) => b),
    ...(link ? { linkPort: link.name } : {}),
  };
}
