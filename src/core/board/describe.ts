import type { BoardDescription } from './description.ts';
import type { BoardModel } from './model.ts';

/** What a board of this make says of itself. */
export function describeBoard(model: BoardModel): BoardDescription {
  return {
    board: model.name,
    revision: model.revision,
    target: model.target,
    pads: model.outputs.map(({ output, pad, timer }) => ({ output, pad, timer })),
    ports: model.ports.map(({ name }, i) => ({ name, link: i === 0 })),
    layout: model,
  };
}
