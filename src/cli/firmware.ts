import { boardOf, boards } from '#core/board/boards.ts';
import { inspectImage } from '#core/formats/firmwareImage.ts';
import { hex, MAX_HEX_BYTES } from '#core/formats/intelHex.ts';
import { BadInput, readBytes } from './input.ts';
import { say } from './output.ts';

/** What a firmware file is, or why it is refused; exit code 1 when it is. */
export function inspectFirmware(file: string, board: string | undefined, json: boolean): number {
  if (board !== undefined && !boardOf(board))
    throw new BadInput(
      `There is no board ${board}; there are ${boards.map((b) => b.target).join(', ')}. Nothing was done.`,
    );
  const found = inspectImage(readBytes(file, MAX_HEX_BYTES), board);
  if (json) {
    const plain = found.ok
      ? { accepted: true, ...found.info, crc: hex(found.info.crc, 8) }
      : { accepted: false, line: found.line > 0 ? found.line : null, reason: found.why };
    say(`${JSON.stringify(plain, null, 2)}\n`);
  } else if (found.ok) {
    const { product, version, target, size, crc } = found.info;
    say(`${product} ${version} for ${target}: ${size} bytes, CRC-32 ${hex(crc, 8)}, whole.\n`);
  } else {
    say(`Refused. ${found.why}\n`);
  }
  return found.ok ? 0 : 1;
}
