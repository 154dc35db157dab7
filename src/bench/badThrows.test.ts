import { describe, expect, it } from 'vitest';
import { boardOf } from '#core/board/boards.ts';
import { parseScenario } from '#core/formats/scenario.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { demoCraft, torvholm } from '../testing/demoCraft.ts';
import { flyThrows } from './badThrows.ts';

const parsed = parseScenario(
  {
    seed: 7,
    home: torvholm.home,
    wind: { speedMps: 3, fromDeg: 230, gustMps: 1 },
    outbound: { bearingDeg: 50, distanceM: 800, heightM: 80 },
    events: [],
    limitS: 100,
  },
  torvholm,
);
if (!parsed.ok) throw new Error(parsed.why);
const { scenario } = parsed;

const throws = (name: 'turnstone' | 'ruff', change: Values = {}) => {
  const { airframe, settings, bench } = demoCraft(name);
  const values = { ...settings, ...change };
  return flyThrows({ airframe, board: boardOf('fell-f7')!, values, truth: bench!, site: torvholm }, scenario);
};

describe('throws as they go wrong', () => {
  it('fly on where the craft can, and hit the ground where it cannot', () => {
    const flown = throws('turnstone', { 'mode.launch.channel': 9 });
    expect(flown.map((t) => t.name)).toContain('nose down');
    expect(flown.find((t) => t.name === 'as it should be')).toMatchObject({ flew: true, saves: null });
    for (const t of flown) {
      expect(t.notFlown).toBeNull();
      expect(t.path[0]![1]).toBeCloseTo(1.8, 0);
      if (!t.flew) expect(t.lowestM).toBeLessThan(1);
    }
  }, 60_000);

  it('that come to grief are saved by what is named', () => {
    const change = { 'mode.launch.channel': 0 };
    const lost = throws('turnstone', change).filter((t) => t.saves);
    expect(lost.length).toBeGreaterThan(0);
    for (const { name, saves } of lost) {
      const again = throws('turnstone', { ...change, [saves!.key]: saves!.value });
      expect(again.find((t) => t.name === name)?.flew, name).toBe(true);
    }
  }, 60_000);

  it('say why where the board does not arm, and are none of a craft that lifts off', () => {
    const refused = throws('turnstone', { 'rx.throttle.channel': 4, 'rx.yaw.channel': 1 });
    expect(refused[0]!.notFlown).toMatch(/refuses to arm/);
    expect(throws('ruff')).toEqual([]);
  }, 60_000);
});
