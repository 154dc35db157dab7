import { isRotorcraft } from '../airframe/airframe.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import { formatQuantity } from '../units/units.ts';
import type { FailWorld } from './failTable.ts';
import type { FaultId } from './ids.ts';

/** A change of settings that may save a flight; whether it does is flown. */
export interface Remedy {
  readonly label: string;
  readonly edits: Values;
}

/** So long without a fix wings may go home by their airspeed and the last wind, s; rotors drift sooner. */
const BLIND_S = { wings: 240, rotors: 90 };
const FASTER_MPS = 4;
const LEAN_MORE_DEG = 10;
const LOWER_M = 150;

/** What may help against a fault, the least change first. */
export function remediesOf(fault: FaultId, { airframe, values }: FailWorld): readonly Remedy[] {
  const s = settingsOf(values);
  const rotors = isRotorcraft(airframe);
  const out: Remedy[] = [];
  const blind = rotors ? BLIND_S.rotors : BLIND_S.wings;
  const mps = (v: number) => formatQuantity(v, 'm/s', 'metric');
  switch (fault) {
    case 'jammed':
    case 'position':
    case 'several':
      if (s.number('lost.blind') < blind)
        out.push({ label: `Fly on without a fix for ${blind} s`, edits: { 'lost.blind': blind } });
      break;
    case 'wind': {
      const tilt = s.number('hover.tilt');
      if (rotors && tilt + LEAN_MORE_DEG <= 60)
        out.push({
          label: `Let it lean ${tilt + LEAN_MORE_DEG}°`,
          edits: { 'hover.tilt': tilt + LEAN_MORE_DEG },
        });
      if (!rotors) {
        const faster = s.number('return.faster') + FASTER_MPS;
        out.push({ label: `When held up, ${mps(faster)} faster`, edits: { 'return.faster': faster } });
      }
      if (s.number('return.lower') < LOWER_M)
        out.push({ label: `When held up, ${LOWER_M} m lower`, edits: { 'return.lower': LOWER_M } });
      break;
    }
    // What unmasks a receiver is found by trying, at Radio silent.
    case 'cell':
    case 'lead':
    case 'motor':
      if (s.choice('return.arrival') !== 'land')
        out.push({ label: 'Land on arrival', edits: { 'return.arrival': 'land' } });
      break;
    default:
      break;
  }
  return out;
}
