import { boardOf, boards } from '#core/board/boards.ts';
import { deviceNames } from '#core/board/deviceKinds.ts';
import { arrange, nameOf, title, type Wish } from '#core/board/explain.ts';
import type { Assignment } from '#core/board/solve.ts';
import { protocolOf, wishesSchema } from '#core/board/wishes.ts';
import { BadInput, readAs } from './input.ts';
import { say } from './output.ts';

const MAX_WISHES_BYTES = 1_000_000;

/** Where everything goes on a board, or what collides; exit code 1 when it does. */
export function solveFile(file: string, target: string, json: boolean): number {
  const board = boardOf(target);
  if (!board)
    throw new BadInput(
      `There is no board ${target}; there are ${boards.map((b) => b.target).join(', ')}. Nothing was done.`,
    );
  const read = readAs(wishesSchema, file, MAX_WISHES_BYTES);
  const answer = arrange(board, read);
  if (json) {
    const plain = answer.ok
      ? { feasible: true, board: board.target, assignment: answer.assignment }
      : {
          feasible: false,
          board: board.target,
          sentence: answer.collision.sentence,
          colliding: answer.collision.wishes.map((w: Wish) => ({ in: w.of, ...w.wish })),
          offer: answer.collision.offer,
        };
    say(`${JSON.stringify(plain, null, 2)}\n`);
  } else if (answer.ok) {
    say(`${title(board)}:\n${inWords(answer.assignment)}`);
  } else {
    const { sentence, wishes, offer } = answer.collision;
    say(`${sentence}\nCollide: ${wishes.map(nameOf).join(', ')}.\n`);
    if (offer) say(`It would go so: ${offer.change}\n${inWords(offer.assignment)}`);
  }
  return answer.ok ? 0 : 1;
}

function inWords(a: Assignment): string {
  const lines = [
    ...[...a.outputs]
      .sort((x, y) => x.output - y.output)
      .map((o) => `  S${o.output}  ${o.wish.name} (${protocolOf(o.wish)})`),
    ...a.serial.map(
      (s) =>
        `  ${s.port ?? (s.outputs.length > 0 ? `S${s.outputs.join(' and S')}` : 'nowhere')}  ${deviceNames[s.wish.device]}`,
    ),
    ...a.buses.map((b) => `  ${b.bus}  ${deviceNames[b.wish.device]}`),
  ];
  return `${lines.join('\n')}\n`;
}
