import type { BoardModel } from '#core/board/model.ts';
import type { PartSays } from '#firmware/readings.ts';
import { KOLK } from './controllers.ts';

const soldered = {
  'overlay chip': { product: 'Tafel', version: '1.3' },
  'second processor': { product: 'Beiboot', version: '0.9' },
} as const;

/** What parts of a craft with firmware of their own answer when the board asks them. */
export function partsOf(board: BoardModel, motors: number, batteryIn: boolean): PartSays[] {
  const parts: PartSays[] = board.parts.map((what) => ({ on: 'board', what, ...soldered[what] }));
  if (batteryIn)
    for (let n = 1; n <= motors; n++)
      parts.push({ on: 'motor pads', what: `motor controller ${n}`, ...KOLK });
  return parts;
}
