import type { Asked, ManoeuvreId } from '#core/answers/outer/manoeuvres.ts';
import { farthest, figuresOfTrace, TRACE_S, type Trace, wanders } from '#core/answers/outer/trace.ts';
import { DEG } from '#core/math/scalar.ts';
import { formatNumber, formatQuantity, type UnitSystem } from '#core/units/units.ts';

/** Rotors that hold a place go no faster than this over ground, and wings fly no slower, m/s. */
const STANDS_MPS = 4;
/** Nearer to its line than this a craft is on it, m. */
const ON_LINE_M = 3;

export const titleOf = (id: ManoeuvreId, asked: Asked, units: UnitSystem): string =>
  ({
    bank: `${formatNumber(asked.bank / DEG, 0)}° of lean`,
    height: `${formatQuantity(asked.height, 'm', units, 0)} higher`,
    speed: `${formatQuantity(asked.speed, 'm/s', units, 0)} faster`,
    path: `Onto a line, ${formatNumber(asked.off / DEG, 0)}° off it`,
    circle: `A circle in ${formatQuantity(asked.windMps, 'm/s', units, 0)} of wind`,
    go: `${formatQuantity(asked.speed, 'm/s', units, 0)}, then let go`,
    gusts: `A place held in ${formatQuantity(asked.windMps, 'm/s', units, 0)} of wind and gusts`,
  })[id];

/** What a trace comes to, in a few words. Of rotors that climb nothing is said of their speed: it is over ground. */
export function traceWords(
  id: ManoeuvreId,
  asked: Asked,
  t: Trace,
  radius: number,
  units: UnitSystem,
): string {
  const m = (v: number, digits = 1) => formatQuantity(v, 'm', units, digits);
  switch (id) {
    case 'bank':
      return there(t.bank, asked.bank);
    case 'height': {
      const from = t.speed[0]!;
      const faster = t.speed.map((v) => v - from);
      const cost =
        from > STANDS_MPS ? moved(faster, 'speed', (v) => formatQuantity(v, 'm/s', units, 1), 0.3) : '';
      return `${there(t.height, asked.height)}${cost}`;
    }
    case 'speed':
      return `${there(t.speed, asked.speed)}${moved(t.height, 'height', (v) => m(v), 0.3)}`;
    case 'path': {
      const k = lastOff(t.east, ON_LINE_M) + 1;
      const beyond = Math.max(0, -Math.min(...t.east));
      const on =
        k < t.east.length ? `on it after ${formatNumber(k * TRACE_S, 1)} s` : 'not on it in that time';
      return `${on}, ${m(Math.max(...t.east))} wide${beyond > 0.5 ? `, ${m(beyond)} beyond it` : ''}`;
    }
    case 'circle': {
      const off = t.north.map((n, i) => Math.hypot(n, t.east[i]!) - radius);
      const worst = farthest(off.subarray(Math.floor(off.length / 3)));
      return `once it is round, within ${m(Math.abs(worst))} of it, farthest ${worst > 0 ? 'outside' : 'inside'}`;
    }
    case 'go': {
      const k = Math.round(asked.letGoS / TRACE_S);
      const up = figuresOfTrace(t.speed.subarray(0, k), asked.speed).thereS;
      const brakes = Math.max(...t.north) - t.north[k]!;
      return `${Number.isNaN(up) ? 'not up to it in that time' : `up to it in ${formatNumber(up, 1)} s`}; then stops within ${m(brakes)}`;
    }
    case 'gusts':
      return `wanders by ${m(wanders(t))}, ${m(Math.max(...t.north.map((n, i) => Math.hypot(n, t.east[i]!))))} at most`;
  }
}

function there(line: Float64Array, asked: number): string {
  const { thereS, over } = figuresOfTrace(line, asked);
  const at = Number.isNaN(thereS) ? 'not there in that time' : `there in ${formatNumber(thereS, 1)} s`;
  return `${at}${over > 0.02 ? `, ${formatNumber(100 * over, 0)} % over` : ''}`;
}

function moved(line: Float64Array, name: string, shown: (v: number) => string, least: number): string {
  const worst = farthest(line);
  if (Math.abs(worst) < least) return '';
  return `; ${name} ${worst > 0 ? 'rises' : 'falls'} by ${shown(Math.abs(worst))}`;
}

function lastOff(line: Float64Array, near: number): number {
  for (let k = line.length - 1; k >= 0; k--) if (Math.abs(line[k]!) > near) return k;
  return -1;
}
