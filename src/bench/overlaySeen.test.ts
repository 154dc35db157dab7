import { describe, expect, it } from 'vitest';
import { usualScenario } from '#core/formats/scenario.ts';
import { overlayConfigOf } from '#core/overlay/config.ts';
import { drawOverlay, newAlarms, stepAlarms } from '#core/overlay/draw.ts';
import { itemIds, placeKey } from '#core/overlay/items.ts';
import { usualPlacing } from '#core/overlay/place.ts';
import { POSE_NUMBERS, viewAt } from '#core/overlay/view.ts';
import { flyableDemo, torvholm } from '../testing/demoCraft.ts';
import { flyOverlay } from './overlaySeen.ts';

const craft = flyableDemo('turnstone');
const shown = (values: typeof craft.values) => {
  const c = overlayConfigOf(values);
  const placing = usualPlacing(c, c.system!, false);
  return { ...values, ...Object.fromEntries(itemIds.map((id) => [placeKey('a', id), placing[id]])) };
};
const values = shown({ ...craft.values, 'overlay.system': 'ouzel', 'overlay.alarm.distance.at': 900 });
const scenario = {
  ...usualScenario(torvholm.home),
  limitS: 240,
  events: [{ atS: 60, do: 'link-lost' as const }],
};

describe('the picture on a flight', () => {
  const c = overlayConfigOf(values);
  const states = newAlarms();
  const cells = new Uint16Array(c.system!.columns * c.system!.rows);
  let same = 0;
  let other = 0;
  const said = new Set<string>();
  const seen = flyOverlay({ ...craft, values, scenario, site: torvholm }, (chip, flight) => {
    const { view, layout } = flight.craft.pfad.overlay;
    // The board steps its alarms at each of its ten pictures a second, this at every second one.
    stepAlarms(states, view, c);
    drawOverlay(layout, view, c, c.system!, states, cells);
    if (cells.every((cell, i) => cell === chip.shown[i])) same++;
    else other++;
    said.add(view.message);
  });

  it('reaches the chip cell for cell as it is drawn here', () => {
    expect(seen.pictures).toBeGreaterThan(1000);
    expect(seen.faults).toBe(0);
    // Between two pictures the mark of an alarm may be passed; nothing else differs.
    expect(other).toBeLessThanOrEqual(2);
    expect(same).toBeGreaterThan(600);
  });

  it('says that the link is lost, and what follows', () => {
    expect([...said]).toEqual(expect.arrayContaining(['', 'Link lost: waits', 'Link lost: comes home']));
  });

  it('keeps what the board knew beside where it truly was', () => {
    const { tape, poses } = seen;
    expect(poses).toHaveLength(tape.count * POSE_NUMBERS);
    const last = viewAt(tape, tape.count - 1);
    expect(last.travelled).toBeGreaterThan(500);
    for (let i = 100; i < tape.count; i += 50) {
      const view = viewAt(tape, i);
      const [, north, east] = poses.slice(i * POSE_NUMBERS);
      const truly = Math.hypot(north!, east!);
      // As well as the receiver knows it.
      expect(Math.abs(view.homeDistance - truly)).toBeLessThan(12);
      // Home lies where the craft came from.
      if (truly > 100) expect(Math.cos(view.homeBearing - Math.atan2(-east!, -north!))).toBeGreaterThan(0.97);
    }
  });
});
