import { toldNames } from '#core/flown/flown.ts';
import { encodeCbor } from '#core/wire/frames.ts';
import { torvholm } from './demoCraft.ts';

/** For tests and the bench: a board's log of a flight in circles, ten moments a second, as a board writes it. */
export function longLog(seconds: number): Uint8Array {
  const fields = ['seconds', 'mode', ...toldNames];
  const parts: Uint8Array[] = [
    encodeCbor({
      ...{ flight: 1, firmware: 'Pfad 3.2', fields, modes: ['level', 'return'], settings: {} },
      origin: { lat: torvholm.home.lat, lon: torvholm.home.lon },
    }),
  ];
  const row = new DataView(new ArrayBuffer(2 + 5 * fields.length));
  row.setUint8(0, 0x98);
  row.setUint8(1, fields.length);
  for (let k = 0; k < 10 * seconds; k++) {
    const t = k / 10;
    const turned = (16 * t) / 600;
    const told: Record<string, number> = {
      ...{ seconds: t, mode: t > seconds / 2 ? 1 : 0, roll: 0.1, yaw: turned },
      ...{
        north: 600 * Math.sin(turned),
        east: 600 * (1 - Math.cos(turned)),
        height: 200 + 40 * Math.sin(t / 30),
      },
      ...{
        velocityNorth: 16 * Math.cos(turned),
        velocityEast: 16 * Math.sin(turned),
        airspeed: 16 + Math.sin(t),
      },
      ...{
        supplyV: 16 - t / 3600,
        currentA: 9 + 3 * Math.sin(3 * t),
        satellites: 14,
        accuracy: 1.4,
        quality: 0.95,
      },
      ...{ throttle: 0.5, command: 0.2, shake: 5 },
    };
    fields.forEach((f, i) => {
      row.setUint8(2 + 5 * i, 0xfa);
      row.setFloat32(3 + 5 * i, told[f] ?? 0);
    });
    parts.push(new Uint8Array(row.buffer.slice(0)));
    if (k % 600 === 0) parts.push(encodeCbor([t, `Minute ${k / 600}.`]));
  }
  const all = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const p of parts) {
    all.set(p, at);
    at += p.length;
  }
  return all;
}
