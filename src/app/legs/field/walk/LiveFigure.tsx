import { settingOf } from '#core/settings/typed.ts';
import { formatNumber, formatQuantity, type UnitSystem } from '#core/units/units.ts';
import { useSampled } from '../../../live/hooks.ts';
import { live } from '../../../live/telemetry.ts';
import { selectValues } from '../../../store/selectors.ts';
import { useApp } from '../../../store/store.ts';

/** What the board says now of what is being looked at, where it is plugged in; nothing of what it does not feel. */
export function LiveFigure({ line }: { readonly line: string }) {
  const values = useApp(selectValues);
  const units = useApp((s) => s.ui.units);
  const wanted = settingOf(values, 'arm.satellites') ?? 0;
  const said = useSampled(() => figureOf(line, wanted, units), 250);
  return said === null ? null : (
    <p className="mt-3 text-lake">
      <span className="text-soft">The board says now: </span>
      <b className="num font-medium">{said}</b>
    </p>
  );
}

function figureOf(line: string, wanted: number, units: UnitSystem): string | null {
  const [navigation, power, home] = [live('navigation'), live('power'), live('home')];
  if (line === 'sky' && navigation)
    return `${navigation.satellites}${wanted > 0 ? ` of ${wanted}` : ''} satellites, ${navigation.hasFix ? 'a position' : 'no position yet'}`;
  if (line === 'battery-in' && power) return `${formatNumber(power.supplyV, 2)} V`;
  if (line === 'arrow' && home)
    return home.set
      ? `home ${formatQuantity(Math.hypot(home.north, home.east), 'm', units, 0)} away`
      : 'home is not set';
  return null;
}
