import type { BoardModel } from '#core/board/model.ts';
import type { ControllerOnWire, PartSays } from '#firmware/readings.ts';

const soldered = {
  'overlay chip': { product: 'Tafel', version: '1.3' },
  'second processor': { product: 'Beiboot', version: '0.9' },
} as const;

/** What parts of a craft with firmware of their own answer when the board asks them. */
export function partsOf(board: BoardModel, controllers: readonly ControllerOnWire[]): PartSays[] {
  const parts: PartSays[] = board.parts.map((what) => ({ on: 'board', what, ...soldered[what] }));
  controllers.forEach(({ product, version, answers }, i) => {
    if (answers) parts.push({ on: 'motor pads', what: `motor controller ${i + 1}`, product, version });
  });
  return parts;
}
