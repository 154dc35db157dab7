import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ByteQueue } from './byteQueue.ts';
import { type GnssEpoch, KNOT_MPS, NmeaReader, NmeaWriter, velocityEast, velocityNorth } from './nmea.ts';

const epoch: GnssEpoch = {
  timeS: 9 * 3600 + 5 * 60 + 7.2,
  valid: true,
  lat: 61.883,
  lon: -12.43,
  heightM: 120.46,
  speedMps: 16.2,
  courseDeg: 305.25,
  used: 12,
  hdop: 0.86,
};

function text(write: (w: NmeaWriter) => void): string {
  const queue = new ByteQueue(4096);
  write(new NmeaWriter(queue));
  let out = '';
  while (queue.length > 0) out += String.fromCharCode(queue.shift());
  return out;
}

/** The two sentences that make a solution. */
function both(w: NmeaWriter, e: GnssEpoch): void {
  w.rmc(e, 10626);
  w.gga(e);
}

/** The standard's checksum, written anew: exclusive or of all characters between $ and *. */
function checksum(sentence: string): string {
  const inner = sentence.slice(1, sentence.indexOf('*'));
  const sum = [...inner].reduce((s, c) => s ^ c.charCodeAt(0), 0);
  return sum.toString(16).toUpperCase().padStart(2, '0');
}

const read = (bytes: string) => {
  const reader = new NmeaReader();
  let epochs = 0;
  for (const c of bytes) if (reader.push(c.charCodeAt(0))) epochs++;
  return { reader, epochs };
};

describe('NMEA 0183 as written', () => {
  it('has the fields of GGA, RMC and VTG in their order and format', () => {
    expect(text((w) => w.gga(epoch))).toMatch(
      /^\$GNGGA,090507\.20,6152\.98000,N,01225\.80000,W,1,12,0\.9,120\.46,M,0\.0,M,,\*[0-9A-F]{2}\r\n$/,
    );
    expect(text((w) => w.rmc(epoch, 10626))).toMatch(
      /^\$GNRMC,090507\.20,A,6152\.98000,N,01225\.80000,W,31\.490,305\.25,010626,,,A\*[0-9A-F]{2}\r\n$/,
    );
    expect(text((w) => w.vtg(epoch))).toMatch(
      /^\$GNVTG,305\.25,T,,M,31\.490,N,58\.320,K,A\*[0-9A-F]{2}\r\n$/,
    );
  });

  it('leaves fields empty without a fix and says so: V, and quality 0', () => {
    const none = { ...epoch, valid: false, used: 2 };
    expect(text((w) => w.rmc(none, 10626))).toContain(',V,,,,,,,010626');
    expect(text((w) => w.gga(none))).toContain(',,,,,0,02,');
  });

  it('says N for the mode while there is no fix, and A with one', () => {
    const mode = (valid: boolean) =>
      text((w) => {
        w.rmc({ ...epoch, valid }, 10626);
        w.vtg({ ...epoch, valid });
      })
        .trim()
        .split('\r\n')
        .map((line) => line.split('*')[0]!.at(-1));
    expect(mode(true)).toEqual(['A', 'A']);
    expect(mode(false)).toEqual(['N', 'N']);
  });

  it('never calls north 360.00', () => {
    for (const courseDeg of [359.994, 359.995, 359.999, 360, 0]) {
      const all = text((w) => {
        w.rmc({ ...epoch, courseDeg }, 10626);
        w.vtg({ ...epoch, courseDeg });
      });
      expect(all).not.toContain('360.00');
      expect(all).toContain(courseDeg === 359.994 ? '359.99' : ',0.00,');
    }
  });

  it('closes every sentence with the right checksum and CR LF, in at most 82 characters', () => {
    const satellites = Array.from({ length: 18 }, (_, i) => ({
      system: i < 13 ? ('G' as const) : ('E' as const),
      id: i + 1,
      elevationDeg: 5 * i,
      azimuthDeg: 19 * i,
      strength: i < 3 ? 0 : 30 + i,
      used: i > 5,
    }));
    const all = text((w) => {
      w.rmc(epoch, 10626);
      w.gga(epoch);
      w.vtg(epoch);
      w.gsa(epoch, satellites);
      w.gsv(satellites);
    });
    const sentences = all.split('\r\n').filter((s) => s !== '');
    expect(sentences.length).toBe(5 + Math.ceil(13 / 4) + Math.ceil(5 / 4));
    for (const s of sentences) {
      expect(s.slice(s.indexOf('*') + 1)).toBe(checksum(s));
      expect(s.length).toBeLessThanOrEqual(80);
    }
    expect(sentences[5]).toMatch(/^\$GPGSV,4,1,13,01,00,000,,02,05,019,,03,10,038,,04,15,057,33\*/);
    // Twelve places for satellites used, then the three dilutions and the system.
    expect(sentences[3]!.split(',')).toHaveLength(19);
    const { reader } = read(all);
    expect(reader.satellites).toEqual(satellites);
  });
});

describe('NMEA 0183 as read', () => {
  it('takes a sentence made elsewhere, and knots as knots', () => {
    // Written by hand after the standard's own layout.
    const body = 'GPRMC,123519.00,A,4807.03800,N,01131.00000,E,22.4,084.40,230394,,,A';
    const gga = 'GPGGA,123519.00,4807.03800,N,01131.00000,E,1,08,0.9,545.4,M,46.9,M,,';
    const framed = [body, gga].map((s) => `$${s}*${checksum(`$${s}*`)}\r\n`).join('');
    const { reader, epochs } = read(framed);
    expect(epochs).toBe(1);
    expect(reader.epoch.lat).toBeCloseTo(48.1173, 4);
    expect(reader.epoch.lon).toBeCloseTo(11.516667, 5);
    expect(reader.epoch.speedMps).toBeCloseTo(22.4 * KNOT_MPS, 9);
    expect(reader.epoch.heightM).toBe(545.4);
    expect(velocityNorth(reader.epoch)).toBeCloseTo(22.4 * KNOT_MPS * Math.cos((84.4 * Math.PI) / 180), 6);
    expect(velocityEast(reader.epoch)).toBeGreaterThan(11);
  });

  it('gives back what was written, anywhere on earth, within the resolution of the format', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -89.9, max: 89.9, noNaN: true }),
        fc.double({ min: -179.9, max: 179.9, noNaN: true }),
        fc.double({ min: -100, max: 9000, noNaN: true }),
        fc.double({ min: 0, max: 90, noNaN: true }),
        fc.double({ min: 0, max: 359.9, noNaN: true }),
        fc.integer({ min: 0, max: 86_399 }),
        (lat, lon, heightM, speedMps, courseDeg, timeS) => {
          const e = { ...epoch, lat, lon, heightM, speedMps, courseDeg, timeS };
          const { reader, epochs } = read(text((w) => both(w, e)));
          expect(epochs).toBe(1);
          // A hundred-thousandth of a minute is 2 cm.
          expect(Math.abs(reader.epoch.lat - lat)).toBeLessThan(1e-7);
          expect(Math.abs(reader.epoch.lon - lon)).toBeLessThan(1e-7);
          expect(Math.abs(reader.epoch.heightM - heightM)).toBeLessThan(0.006);
          expect(Math.abs(reader.epoch.speedMps - speedMps)).toBeLessThan(0.001);
          expect(Math.abs(reader.epoch.courseDeg - courseDeg)).toBeLessThan(0.006);
          expect(reader.epoch.timeS).toBe(timeS);
        },
      ),
    );
  });

  it('drops a sentence with one character wrong, and every line of noise, and reads on', () => {
    const good = text((w) => both(w, epoch));
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: good.indexOf('*') - 1 }),
        fc.integer({ min: 32, max: 126 }),
        (at, code) => {
          const wrong = String.fromCharCode(code);
          if (wrong === good[at] || wrong === '$') return;
          const { reader, epochs } = read(good.slice(0, at) + wrong + good.slice(at + 1));
          expect(epochs).toBe(0);
          expect(reader.faults).toBeGreaterThan(0);
        },
      ),
    );
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 600 }), (noise) => {
        const reader = new NmeaReader();
        for (const b of noise) reader.push(b);
        let epochs = 0;
        for (const c of `\r\n${good}`) if (reader.push(c.charCodeAt(0))) epochs++;
        expect(epochs).toBe(1);
      }),
    );
  });
});
