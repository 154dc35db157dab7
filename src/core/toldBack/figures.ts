import { formatBearing, formatQuantity, type UnitSystem } from '../units/units.ts';
import type { Told } from './frames.ts';
import type { ToldId } from './sensors.ts';

export interface ToldFigure {
  readonly name: string;
  readonly text: string;
}

const NOT_TOLD = '–';

/** What a transmitter makes of one frame: the figures that appear, by name. A figure that did not come is a dash. */
export function toldFigures(id: ToldId, t: Partial<Told>, units: UnitSystem): readonly ToldFigure[] {
  const of = (v: number | undefined, unit: string, digits: number) =>
    v === undefined ? NOT_TOLD : formatQuantity(v, unit, units, digits);
  const degrees = (v: number | undefined) => (v === undefined ? NOT_TOLD : v.toFixed(5));
  const bearing = (v: number | undefined) => (v === undefined ? NOT_TOLD : formatBearing(v));
  const angle = (v: number | undefined) => of(v === undefined ? undefined : (v * 180) / Math.PI, 'deg', 0);
  switch (id) {
    case 'place':
      return [
        { name: 'latitude', text: degrees(t.lat) },
        { name: 'longitude', text: degrees(t.lon) },
        { name: 'height', text: of(t.heightM, 'm', 0) },
        { name: 'speed over ground', text: of(t.groundMps, 'm/s', 1) },
        { name: 'course', text: bearing(t.courseRad) },
        { name: 'satellites', text: t.satellites === undefined ? NOT_TOLD : String(t.satellites) },
      ];
    case 'battery':
      return [
        { name: 'battery', text: of(t.volts, 'v', 1) },
        { name: 'current', text: of(t.amps, 'a', 1) },
        { name: 'used', text: of(t.usedMah, 'mah', 0) },
        { name: 'left', text: of(t.leftShare === undefined ? undefined : 100 * t.leftShare, 'percent', 0) },
      ];
    case 'mode':
      return [{ name: 'mode', text: t.mode ?? NOT_TOLD }];
    case 'climb':
      return [{ name: 'climb', text: of(t.climbMps, 'm/s', 1) }];
    case 'air':
      return [{ name: 'airspeed', text: of(t.airspeedMps, 'm/s', 1) }];
    case 'attitude':
      return [
        { name: 'bank', text: angle(t.rollRad) },
        { name: 'nose up', text: angle(t.pitchRad) },
        { name: 'heading', text: bearing(t.yawRad) },
      ];
  }
}
