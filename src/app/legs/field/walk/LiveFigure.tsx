import { actuatorNames } from '#core/airframe/actuators.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import { commandedBy } from '#core/mixer/commanded.ts';
import { notCommandedAgainst, surfacesAgainst } from '#core/proofs/surfaceAnswers.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingOf } from '#core/settings/typed.ts';
import { formatNumber, formatQuantity, type UnitSystem } from '#core/units/units.ts';
import { useSampled } from '../../../live/hooks.ts';
import { live, recent } from '../../../live/telemetry.ts';
import { selectValues } from '../../../store/selectors.ts';
import { useApp } from '../../../store/store.ts';

/** What the board says now of what is being looked at, where it is plugged in; nothing of what it does not feel. */
export function LiveFigure({ line }: { readonly line: string }) {
  const values = useApp(selectValues);
  const onBoard = useApp((s) => s.settings.base);
  const airframe = useApp((s) => s.craft.airframe!);
  const units = useApp((s) => s.ui.units);
  const wanted = settingOf(values, 'arm.satellites') ?? 0;
  const said = useSampled(() => figureOf(line, wanted, units) ?? tiltOf(line, airframe, onBoard), 250);
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
  if (line === 'battery-in' && power)
    return `${formatNumber(power.supplyV, 2)} V${sagOf(power.supplyV, power.currentA)}`;
  if (line === 'range') return rangeOf();
  if (line === 'arrow' && home)
    return home.set
      ? `home ${formatQuantity(Math.hypot(home.north, home.east), 'm', units, 0)} away`
      : 'home is not set';
  return null;
}

/** A battery that is drawn from tells how far it gives way; less than this is no load, A. */
const LOAD_A = 2;
const LOOKS_BACK_S = 20;

/** How far the supply fell since it rested, while something is drawn; empty else. */
function sagOf(supplyV: number, currentA: number): string {
  if (currentA < LOAD_A) return '';
  const rested = recent('power', LOOKS_BACK_S).filter((s) => s.value.currentA < LOAD_A);
  const restV = rested.at(-1)?.value.supplyV;
  return restV === undefined
    ? ` under ${formatNumber(currentA, 1)} A`
    : `, ${formatNumber(restV - supplyV, 2)} V less under ${formatNumber(currentA, 1)} A`;
}

/** How well the receiver hears while one walks away, now and at its worst. */
function rangeOf(): string | null {
  const heard = recent('receiver', LOOKS_BACK_S).map((s) => s.value.quality);
  const now = heard.at(-1);
  if (now === undefined) return null;
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  return `${percent(now)} is heard, at worst ${percent(Math.min(...heard))} in the last ${LOOKS_BACK_S} s`;
}

/** Farther than this the craft is held over, rad. */
const HELD_OVER = 0.12;

/** Whether what the board sends goes against the tilt that it feels, while it is held over to the right. */
function tiltOf(line: string, airframe: Airframe, onBoard: Values): string | null {
  const [attitude, outputs] = [live('attitude'), live('outputs')];
  const surfaces = surfacesAgainst(airframe, 'roll-right');
  if (line !== 'tilt' || !attitude || !outputs || surfaces.length === 0) return null;
  const deg = Math.round((attitude.roll * 180) / Math.PI);
  if (attitude.roll < HELD_OVER) return `bank ${deg}°: hold its right wing down`;
  const against = notCommandedAgainst(commandedBy(onBoard, outputs.pulses), surfaces, 'roll-right');
  return against.length === 0
    ? `bank ${deg}°, and every surface is sent against it`
    : `bank ${deg}°, and the ${against.map((id) => actuatorNames[id]).join(', the ')} ${against.length === 1 ? 'is' : 'are'} not sent against it: is it in Level?`;
}
