import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { demoValues } from '../../testing/demoCraft.ts';
import { levelTrimFrom } from '../calibration/levelTrim.ts';
import { DEG } from '../math/scalar.ts';
import { BLANK } from '../overlay/glyphs.ts';
import { videoIds, videoSystems } from '../overlay/videoSystems.ts';
import { pocketCard } from './card.ts';
import { GestureWatch, gestureEdits, gestureIn, gestures, HOLD_S } from './gestures.ts';
import { drawMenu, MENU_ROWS, menuLines, menuSeen, menuStep } from './menu.ts';

const values = demoValues('turnstone');
const rest = { throttle: 0, yaw: 0, roll: 0, pitch: 0 };

describe('gestures of the sticks', () => {
  it('are each in one place, and nowhere else', () => {
    const seen = new Set<string>();
    for (const yaw of [-1, 0, 1])
      for (const roll of [-1, 0, 1])
        for (const pitch of [-1, 0, 1]) {
          const id = gestureIn({ throttle: 0, yaw, roll, pitch });
          expect(gestureIn({ throttle: 0.5, yaw, roll, pitch })).toBeNull();
          if (!id) continue;
          expect(seen.has(id)).toBe(false);
          seen.add(id);
        }
    expect([...seen].sort()).toEqual(gestures.map((g) => g.id).sort());
    // A corner of the right stick is none: what was meant is not known.
    expect(gestureIn({ throttle: 0, yaw: -1, roll: 1, pitch: 1 })).toBeNull();
  });

  it('count once they were held, once only, and again after they were let go', () => {
    const watch = new GestureWatch();
    const at = { ...rest, yaw: -1, pitch: -1 };
    const hold = (s: number, where = at) => {
      const came = [];
      for (let k = 0; k < s / 0.02; k++) {
        const id = watch.step(where, 0.02);
        if (id) came.push(id);
      }
      return came;
    };
    expect(hold(HOLD_S - 0.1)).toEqual([]);
    expect(hold(5)).toEqual(['next-set']);
    expect(hold(5)).toEqual([]);
    hold(0.1, rest);
    expect(hold(HOLD_S + 0.1)).toEqual(['next-set']);
    // Who slips out of it in the middle begins anew.
    hold(0.1, rest);
    hold(HOLD_S - 0.2);
    hold(0.04, rest);
    expect(hold(HOLD_S - 0.2)).toEqual([]);
  });

  it('change what they say, within bounds, by what the board takes', () => {
    expect(gestureEdits('next-set', { ...values, 'set.active': '3' })).toEqual({ 'set.active': '1' });
    expect(gestureEdits('last-set', { ...values, 'set.active': '1' })).toEqual({ 'set.active': '3' });
    expect(gestureEdits('nose-up', { ...values, 'mount.levelPitch': 10 })).toEqual({
      'mount.levelPitch': 10,
    });
    for (const g of gestures)
      for (const [key, value] of Object.entries(gestureEdits(g.id, values)))
        expect(pfadCatalogue.checkValue(key, value), g.id).toBeNull();
  });

  it('turn what counts as level the way they say: as it would be learnt from a craft propped so', () => {
    const propped = (rollDeg: number, pitchDeg: number) => {
      const [r, p] = [rollDeg * DEG, pitchDeg * DEG];
      // Straight up in the axes of a craft that lies so.
      return levelTrimFrom([Math.sin(p), -Math.sin(r) * Math.cos(p), -Math.cos(r) * Math.cos(p)])!;
    };
    const level = { ...values, 'mount.levelPitch': 0, 'mount.levelRoll': 0 };
    expect(
      Number(gestureEdits('nose-up', level)['mount.levelPitch']) * propped(0, 3).pitchDeg,
    ).toBeGreaterThan(0);
    expect(
      Number(gestureEdits('nose-down', level)['mount.levelPitch']) * propped(0, -3).pitchDeg,
    ).toBeGreaterThan(0);
    expect(
      Number(gestureEdits('right-down', level)['mount.levelRoll']) * propped(3, 0).rollDeg,
    ).toBeGreaterThan(0);
    expect(
      Number(gestureEdits('left-down', level)['mount.levelRoll']) * propped(-3, 0).rollDeg,
    ).toBeGreaterThan(0);
  });
});

describe('the menu over the picture', () => {
  const push = (keys: string, from = values) => {
    let [at, now, left]: [number, typeof from, boolean] = [0, from, false];
    for (const k of keys) {
      const step = menuStep(now, at, ({ u: 'up', d: 'down', l: 'left', r: 'right' } as const)[k as 'u']);
      at = step.at;
      now = { ...now, ...step.edits };
      left ||= step.leave;
    }
    return { at, now, left };
  };

  it('goes round, changes what it stands at, and is left at its end', () => {
    expect(push('u').at).toBe(MENU_ROWS - 1);
    expect(push('ur').left).toBe(true);
    expect(push('d'.repeat(MENU_ROWS)).at).toBe(0);
    expect(push('rr').now['set.active']).toBe('3');
    expect(push('rrrrr').now['set.active']).toBe('3');
    const height = Number(values['return.height']);
    expect(push('drl').now['return.height']).toBe(height);
    expect(push('dr').now['return.height']).toBe(height + 10);
    expect(push('').left).toBe(false);
  });

  it('never asks for what the board would not take', () => {
    for (let at = 0; at < MENU_ROWS; at++)
      for (const key of ['left', 'right'] as const) {
        let now = { ...values };
        for (let k = 0; k < 250; k++) {
          const { edits } = menuStep(now, at, key);
          for (const [name, value] of Object.entries(edits))
            expect(pfadCatalogue.checkValue(name, value), name).toBeNull();
          now = { ...now, ...edits };
        }
      }
  });

  it('fits into every picture', () => {
    const lines = menuLines({ ...values, 'return.height': 1000, 'video.power': '800' }, 1);
    for (const id of videoIds) {
      const system = videoSystems[id];
      expect(lines.length).toBeLessThanOrEqual(system.rows);
      for (const l of lines) expect(l.length).toBeLessThanOrEqual(system.columns);
      const cells = new Uint16Array(system.columns * system.rows);
      drawMenu(lines, system, cells);
      const text = String.fromCharCode(...cells);
      for (const l of lines) expect(text).toContain(l.trimEnd());
      // And is read off it again, as it was.
      expect(menuSeen(cells, system.columns)).toEqual(lines.map((l) => l.trimEnd()));
    }
  });

  it('is not seen in a picture of other things, nor in none', () => {
    const { columns, rows } = videoSystems['analogue-625'];
    const cells = new Uint16Array(columns * rows).fill(BLANK);
    expect(menuSeen(cells, columns)).toBeNull();
    [...'ON THE GROUN'].forEach((c, i) => {
      cells[columns + i] = c.charCodeAt(0);
    });
    expect(menuSeen(cells, columns)).toBeNull();
    expect(menuSeen([], 0)).toBeNull();
    expect(menuSeen([], 30)).toBeNull();
  });
});

describe('the card for the pocket', () => {
  it('is of this very set-up', () => {
    const card = pocketCard(values, 'metric');
    const part = (title: string) =>
      card
        .find((p) => p.title === title)!
        .lines.map((l) => l.join(': '))
        .join('; ');
    expect(part('Switches')).toContain(`Armed: channel ${values['arm.channel']}`);
    expect(part('The way home')).toContain(`${values['return.height']} m over home`);
    expect(part('By stick, disarmed: left and right, held')).toContain('Next control set');
    expect(part('Lamps and buzzer')).toContain('Link lost: red, even, sounds');
    const off = pocketCard({ ...values, 'hand.gestures': false, 'arm.channel': 0 }, 'metric');
    expect(off.find((p) => p.title === 'By stick, disarmed: left and right, held')!.lines).toEqual([
      ['Gestures', 'are switched off'],
    ]);
    expect(off[0]!.lines.some(([what]) => what === 'Armed')).toBe(false);
    for (const p of card)
      for (const [what, how] of p.lines) expect(`${what} ${how}`).not.toMatch(/undefined|NaN/);
  });
});
