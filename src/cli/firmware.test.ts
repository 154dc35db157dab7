import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { writeImage } from '#core/formats/firmwareImage.ts';
import { runCli } from '../testing/runCli.ts';

const dir = mkdtempSync(join(tmpdir(), 'wanderweg-'));
const file = (name: string, text: string) => {
  const path = join(dir, name);
  writeFileSync(path, text);
  return path;
};
const image = writeImage(new Uint8Array(4096), {
  product: 'Pfad',
  target: 'massif-h7-b',
  version: '3.2-rc1',
});

describe('wanderweg firmware inspect', () => {
  it('says what a file is', () => {
    const good = file('good.hex', image);
    const { code, out } = runCli('firmware', 'inspect', good, '--board', 'massif-h7-b', '--json');
    expect(code).toBe(0);
    expect(JSON.parse(out)).toMatchObject({
      accepted: true,
      product: 'Pfad',
      target: 'massif-h7-b',
      version: '3.2-rc1',
      size: 4096,
      crc: expect.stringMatching(/^0x[0-9A-F]{8}$/),
    });
  });

  it('exits 1 with line and reason for what is refused', () => {
    const lines = image.split('\n');
    lines[6] = `${lines[6]!.slice(0, -2)}00`;
    const { code, out } = runCli('firmware', 'inspect', file('bad.hex', lines.join('\n')), '--json');
    expect(code).toBe(1);
    expect(JSON.parse(out)).toMatchObject({ accepted: false, line: 7 });
    const other = runCli('firmware', 'inspect', file('b.hex', image), '--board', 'massif-h7-a');
    expect(other).toMatchObject({ code: 1, out: expect.stringContaining('Refused. It is built for') });
  });

  it('exits 2 for a file or a board that is not there', () => {
    expect(runCli('firmware', 'inspect', join(dir, 'none.hex'))).toMatchObject({ code: 2, out: '' });
    expect(runCli('firmware', 'inspect', file('c.hex', image), '--board', 'pebble')).toMatchObject({
      code: 2,
    });
  });
});
