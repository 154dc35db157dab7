import type { Values } from '../settings/catalogue.ts';
import { settingOf } from '../settings/typed.ts';
import { frameBytes, ROOM_KEY, rateKey, type ToldId, toldSensors } from './sensors.ts';

/** How what is told fits into the way back. */
export interface ToldFit {
  readonly sensors: readonly {
    readonly id: ToldId;
    readonly hz: number;
    /** Bytes a second that it asks for. */
    readonly bytesPerS: number;
  }[];
  readonly askedPerS: number;
  readonly roomPerS: number;
  /** Share of what is asked that there is room for, at most 1. */
  readonly share: number;
  /** The receiver's protocol has a way back at all. */
  readonly wayBack: boolean;
}

/** What these settings tell the transmitter. */
export function toldFit(values: Values): ToldFit {
  const sensors = toldSensors.map((s) => {
    const hz = Number(settingOf(values, rateKey(s.id)) ?? 0);
    return { id: s.id, hz, bytesPerS: hz * frameBytes(s) };
  });
  const askedPerS = sensors.reduce((sum, s) => sum + s.bytesPerS, 0);
  const roomPerS = Number(settingOf(values, ROOM_KEY) ?? 0);
  return {
    ...{ sensors, askedPerS, roomPerS },
    share: askedPerS > 0 ? Math.min(1, roomPerS / askedPerS) : 1,
    wayBack: (settingOf(values, 'rx.protocol') ?? 'crsf') === 'crsf',
  };
}

const RATE_STEP = 0.1;

/** Rates that fit: all slower by the same share, those of the place and the battery last. */
export function fittingRates(fit: ToldFit): Readonly<Record<string, number>> {
  const first = (id: ToldId) => id === 'place' || id === 'battery';
  const kept = fit.sensors.filter((s) => first(s.id)).reduce((sum, s) => sum + s.bytesPerS, 0);
  const rest = fit.askedPerS - kept;
  const restShare = rest > 0 ? Math.max(0, Math.min(1, (fit.roomPerS - kept) / rest)) : 1;
  const firstShare = kept > fit.roomPerS ? fit.roomPerS / kept : 1;
  const down = (hz: number) => Math.floor(hz / RATE_STEP + 1e-9) * RATE_STEP;
  return Object.fromEntries(
    fit.sensors.flatMap((s) => {
      const hz = Number(down(s.hz * (first(s.id) ? firstShare : restShare)).toFixed(1));
      return hz === s.hz ? [] : [[rateKey(s.id), hz]];
    }),
  );
}
