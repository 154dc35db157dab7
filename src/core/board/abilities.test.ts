import { describe, expect, it } from 'vitest';
import { outputAbilities, portAbilities, spotAbilities } from './abilities.ts';
import { boards } from './boards.ts';
import type { SerialDevice } from './deviceKinds.ts';
import { solve } from './solve.ts';
import type { OutputKind } from './wishes.ts';

const words: Readonly<Record<OutputKind, string>> = {
  'servo-pwm': 'servo',
  'motor-pwm': 'motor by pulses',
  dshot300: 'motor by DShot',
  dshot600: 'motor by DShot',
  led: 'LED strip',
};

describe.each(boards.map((b) => [b.target, b] as const))('what a pad of %s could be', (_target, board) => {
  it('is just what the solver lets it be', () => {
    for (const pad of board.outputs) {
      const { could } = outputAbilities(board, pad);
      for (const [kind, word] of Object.entries(words)) {
        const wish = { name: 'x', kind: kind as OutputKind, output: pad.output };
        const stays = solve(board, { outputs: [wish], serial: [], buses: [] })?.moved === 0;
        expect(could.includes(word), `${pad.pad} ${kind}`).toBe(stays);
      }
    }
    const devices: readonly (readonly [SerialDevice, string])[] = [
      ['receiver-sbus', 'receiver with levels turned round (SBUS)'],
      ['video-control', 'device on one wire'],
    ];
    for (const port of board.ports)
      for (const [device, word] of devices) {
        const stays =
          solve(board, { outputs: [], serial: [{ device, port: port.name }], buses: [] })?.moved === 0;
        expect(portAbilities(board, port).could.includes(word), `${port.name} ${device}`).toBe(stays);
      }
  });

  it('names what lies on the same pins from both sides', () => {
    for (const port of board.ports)
      for (const n of port.sharesOutputs ?? []) {
        const pad = board.outputs.find((p) => p.output === n)!;
        expect(portAbilities(board, port).limits).toContain(pad.pad);
        expect(outputAbilities(board, pad).limits).toContain(port.name);
      }
  });

  it('has a supply for each, and every single-use pad inside the board and apart from the others', () => {
    for (const s of board.spots) {
      expect(spotAbilities(board, s.name).power).toMatch(/V/);
      expect(s.xMm).toBeLessThan(board.widthMm);
      expect(s.yMm).toBeLessThan(board.heightMm - 4);
      for (const other of board.spots)
        if (other !== s) expect(Math.abs(other.yMm - s.yMm)).toBeGreaterThan(2.4);
    }
  });
});
