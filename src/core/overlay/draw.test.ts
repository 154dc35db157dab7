import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { ChipPicture, chipBytes } from './chipBytes.ts';
import { overlayConfigOf } from './config.ts';
import { blinking, drawOverlay, newAlarms, stepAlarms } from './draw.ts';
import { arrowAngle, arrowTo, BLANK, BLINKS, barAt, barShare, symbols } from './glyphs.ts';
import { cellAt, itemIds } from './items.ts';
import { HORIZON, itemSize, itemText } from './itemText.ts';
import { videoSystems } from './videoSystems.ts';
import { indexAt, newView, type OverlayView, ViewTape, viewAt } from './view.ts';

const config = (more: object = {}) =>
  overlayConfigOf({ ...pfadCatalogue.defaults(), 'overlay.system': 'ouzel', ...more });
const DEG = Math.PI / 180;

/** Any state a board may be in, sensible or not. */
const anyView: fc.Arbitrary<OverlayView> = fc
  .record(
    Object.fromEntries(
      Object.entries(newView()).map(([name, value]) => [
        name,
        typeof value === 'number'
          ? fc.double({ min: -1e5, max: 1e5 })
          : typeof value === 'boolean'
            ? fc.boolean()
            : fc.string({ maxLength: 60 }),
      ]),
    ),
  )
  .map((v) => v as unknown as OverlayView);

describe('items', () => {
  it('never take more cells than they say, whatever the board knows', () => {
    fc.assert(
      fc.property(anyView, (view) => {
        const c = config({ 'overlay.words.1': 'TURNSTONE' });
        const v = { ...view, mode: c.modes[0]!, flownS: Math.abs(view.flownS) || 0 };
        for (const id of itemIds) {
          const { rows, columns } = itemSize(id, c);
          const lines = itemText(id, v, c);
          expect(lines.length, id).toBeLessThanOrEqual(rows);
          for (const line of lines) expect(line.length, `${id} ${line}`).toBeLessThanOrEqual(columns);
        }
      }),
    );
  });

  it('points the arrow to home as it lies before the nose', () => {
    const at = (bearing: number, heading: number) =>
      itemText(
        'arrow',
        { ...newView(), homeSet: true, homeBearing: bearing * DEG, heading: heading * DEG },
        config(),
      )[0]!;
    expect(at(90, 90)).toBe(arrowTo(0));
    expect(at(180, 90)).toBe(arrowTo(90 * DEG));
    expect(at(10, 100)).toBe(arrowTo(-90 * DEG));
    expect(arrowAngle(at(280, 100).charCodeAt(0))).toBeCloseTo(Math.PI, 9);
    expect(itemText('arrow', { ...newView(), homeSet: true, homeBearing: 1 }, config())[0]).toBe('-');
    expect(itemText('arrow', { ...newView(), homeBearing: 1, heading: 1 }, config())[0]).toBe('-');
  });

  it('blows the wind’s arrow the way it pushes the craft', () => {
    const view = { ...newView(), heading: 0, windFrom: 0, windSpeed: 7.6 };
    expect(itemText('wind', view, config())[0]).toBe(`${arrowTo(Math.PI)} 8m/s`);
  });

  it('lays the horizon where a camera would see it', () => {
    const rows = (roll: number, pitch: number) =>
      itemText('horizon', { ...newView(), roll: roll * DEG, pitch: pitch * DEG }, config());
    const barIn = (lines: readonly string[], column: number) =>
      lines.findIndex(
        (l) => l.charCodeAt(column) >= symbols.bar.code && l.charCodeAt(column) < symbols.aim.code,
      );
    const level = rows(0, 0);
    expect(barIn(level, 0)).toBe((HORIZON.rows - 1) / 2);
    // Nose up: the horizon sinks. Right wing down: it rises on the right.
    expect(barIn(rows(0, 10), 0)).toBeGreaterThan((HORIZON.rows - 1) / 2);
    const banked = rows(20, 0);
    expect(barIn(banked, HORIZON.columns - 1)).toBeLessThan(barIn(banked, 0));
    // Its slope is the bank's tangent, by cells that are 16/9 * 20/53 as wide as high.
    const heightOf = (lines: readonly string[], column: number) => {
      const row = barIn(lines, column);
      return HORIZON.rows - 1 - row + barShare(lines[row]!.charCodeAt(column));
    };
    const slope = (heightOf(banked, 10) - heightOf(banked, 0)) / (10 * ((16 / 9) * (20 / 53)));
    expect(Math.abs(slope - Math.tan(20 * DEG))).toBeLessThan(0.03);
    expect(barAt(0.999)).toBe(barAt(1));
  });
});

describe('alarms', () => {
  const c = config({
    'overlay.alarm.cell.at': 3.5,
    'overlay.alarm.cell.back': 0.1,
    'overlay.alarm.height.at': 120,
    'overlay.alarm.height.back': 10,
  });

  it('begin at their mark and end only some way beyond it', () => {
    const states = newAlarms();
    const blinksAt = (volts: number, height = 50) => {
      stepAlarms(states, { ...newView(), armed: true, cells: 4, supplyV: 4 * volts, height }, c);
      return [...blinking(states)];
    };
    expect(blinksAt(3.6)).toEqual([]);
    expect(blinksAt(3.49)).toEqual(['cell', 'volts']);
    expect(blinksAt(3.55)).toEqual(['cell', 'volts']);
    expect(blinksAt(3.61)).toEqual([]);
    expect(blinksAt(3.6, 121)).toEqual(['height', 'ground']);
    expect(blinksAt(3.6, 112)).toEqual(['height', 'ground']);
    expect(blinksAt(3.6, 109)).toEqual([]);
  });

  it('are silent on the ground, and where nobody knows', () => {
    const states = newAlarms();
    stepAlarms(states, { ...newView(), armed: false, supplyV: 0 }, c);
    expect(blinking(states).size).toBe(0);
    stepAlarms(states, { ...newView(), armed: true, supplyV: Number.NaN }, c);
    expect(blinking(states).size).toBe(0);
  });

  it('mark the cells of their item', () => {
    const values = config({
      'overlay.alarm.cell.at': 3.5,
      'overlay.a.cell': cellAt(2, 3),
      'overlay.a.mode': cellAt(4, 3),
    });
    const states = newAlarms();
    const view = { ...newView(), armed: true, mode: 'Level', supplyV: 3 };
    stepAlarms(states, view, values);
    const cells = new Uint16Array(53 * 20);
    drawOverlay('a', view, values, videoSystems.ouzel, states, cells);
    expect(cells[2 * 53 + 3]).toBe('3'.charCodeAt(0) | BLINKS);
    expect(cells[4 * 53 + 3]).toBe('L'.charCodeAt(0));
  });
});

describe('a system', () => {
  it('shows letters for signs that it lacks, and cuts what lies outside', () => {
    const c = config({ 'overlay.system': 'dipper', 'overlay.a.distance': cellAt(0, 58) });
    const cells = new Uint16Array(60 * 22);
    drawOverlay(
      'a',
      { ...newView(), homeSet: true, homeDistance: 1234 },
      c,
      videoSystems.dipper,
      newAlarms(),
      cells,
    );
    expect([...cells.slice(58, 61)]).toEqual(['H'.charCodeAt(0), '1'.charCodeAt(0), BLANK]);
  });
});

describe('what a chip is sent', () => {
  const picture = fc.array(fc.integer({ min: 0, max: 0x1ff }), { minLength: 30 * 13, maxLength: 30 * 13 });

  it('makes its picture what was drawn, whatever changed, in whatever pieces it comes', () => {
    fc.assert(
      fc.property(
        fc.array(picture, { minLength: 1, maxLength: 4 }),
        fc.integer({ min: 1, max: 40 }),
        (all, piece) => {
          const chip = new ChipPicture();
          let before: Uint16Array | null = null;
          for (const one of all) {
            const now = Uint16Array.from(one);
            const bytes = chipBytes(before, now, 30, 13);
            for (let i = 0; i < bytes.length; i += piece) chip.receive(bytes.slice(i, i + piece));
            expect(chip.shown).toEqual(now);
            before = now;
          }
          expect(chip.faults).toBe(0);
        },
      ),
      { numRuns: 30 },
    );
  });

  it('is not shown where some of it was lost, until all of it comes again', () => {
    const first = new Uint16Array(30 * 13).fill(BLANK);
    const second = first.map((x, i) => (i % 7 === 0 ? 0x41 : x));
    const third = second.map((x, i) => (i === 20 ? 0x42 : x));
    const chip = new ChipPicture();
    chip.receive(chipBytes(null, first, 30, 13));
    const cut = chipBytes(first, second, 30, 13);
    chip.receive(cut.slice(12));
    expect(chip.shown).toEqual(first);
    chip.receive(chipBytes(second, third, 30, 13));
    expect(chip.shown).toEqual(first);
    expect(chip.faults).toBeGreaterThan(0);
    chip.receive(chipBytes(null, third, 30, 13));
    expect(chip.shown).toEqual(third);
  });

  it('survives noise', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (noise) => {
        const chip = new ChipPicture();
        chip.receive(noise);
        expect(chip.shown.length).toBeLessThanOrEqual(65_025);
      }),
    );
  });
});

describe('a tape of views', () => {
  it('gives back what was put in, and finds a time', () => {
    const tape = new ViewTape();
    const views = [0, 0.2, 0.4].map((atS) => ({
      ...newView(),
      atS,
      mode: atS > 0.1 ? 'Level' : 'Manual',
      armed: atS > 0.3,
    }));
    for (const v of views) tape.add(v);
    const packed = tape.packed();
    expect(packed.count).toBe(3);
    views.forEach((v, i) => {
      expect(viewAt(packed, i)).toEqual(v);
    });
    expect([-1, 0, 0.19, 0.2, 9].map((t) => indexAt(packed, t))).toEqual([0, 0, 0, 1, 2]);
    expect(() => viewAt(packed, 3)).toThrow(RangeError);
  });
});
