import { describe, expect, it } from 'vitest';
import type { TrackPoint } from '../formats/rehearsalResult.ts';
import { latitudeAt, longitudeAt } from '../navigation/earth.ts';
import { airspeedFromCircles } from './airspeedCircles.ts';
import { circleSamplesOf, levelFromFlight, momentsOfLog, momentsOfTrack } from './fromFlight.ts';

const home = { lat: 60, lon: 6 };

/** A flight that goes round in a wind of 6 m/s to the east at 15 m/s through the air, then straight. */
function flight(told: number): TrackPoint[] {
  let [north, east] = [0, 0];
  return Array.from({ length: 240 }, (_, i) => {
    const round = i < 150;
    const heading = round ? (2 * Math.PI * i) / 50 : 0;
    const vn = 15 * Math.cos(heading);
    const ve = 15 * Math.sin(heading) + 6;
    north += vn;
    east += ve;
    return {
      atS: i,
      lat: latitudeAt(home.lat, north),
      lon: longitudeAt(home.lat, home.lon, east),
      heightM: 100,
      groundM: 0,
      airspeedMps: 15,
      toldAirspeedMps: 15 / told,
      groundspeedMps: Math.hypot(vn, ve),
      mode: 'loiter',
      rollDeg: round ? 25 : 0.4,
      pitchDeg: round ? 4 : 2.6,
      yawDeg: 0,
    };
  });
}

describe('what a flight says', () => {
  it('is the scale of the tube and the wind, from circles', () => {
    const fit = airspeedFromCircles(circleSamplesOf(momentsOfTrack(flight(1.08))));
    if ('refused' in fit) throw new Error(fit.refused);
    expect(fit.factor).toBeCloseTo(1.08, 2);
    expect(fit.windEast).toBeCloseTo(6, 1);
    expect(fit.windNorth).toBeCloseTo(0, 1);
  });

  it('is the attitude of straight and level flight, and nothing of turns', () => {
    const level = levelFromFlight(momentsOfTrack(flight(1)));
    if ('refused' in level) throw new Error(level.refused);
    expect(level.pitchDeg).toBeCloseTo(2.6, 6);
    expect(level.rollDeg).toBeCloseTo(0.4, 6);
    expect(level.seconds).toBeCloseTo(89, 0);
    expect(levelFromFlight(momentsOfTrack(flight(1).slice(0, 160)))).toHaveProperty('refused');
  });

  it('is the same from a log that a board kept', () => {
    const fields = [
      'seconds',
      'mode',
      'roll',
      'pitch',
      'velocityNorth',
      'velocityEast',
      'climb',
      'airspeed',
      'height',
    ];
    const samples = momentsOfTrack(flight(1.08)).map((p) => [
      p.atS,
      0,
      (p.rollDeg * Math.PI) / 180,
      (p.pitchDeg * Math.PI) / 180,
      p.northMps,
      p.eastMps,
      p.climbMps,
      p.toldMps,
      p.aboveM,
    ]);
    // The first sample is from the ground: heights count from there.
    const log = {
      flight: 1,
      firmware: 'Pfad 3.2',
      fields,
      modes: ['loiter'],
      samples: [[0, 0, 0, 0, 0, 0, 0, 0, 0], ...samples],
      decisions: [],
      settings: {},
      gyro: [],
    };
    const fit = airspeedFromCircles(circleSamplesOf(momentsOfLog(log)!));
    if ('refused' in fit) throw new Error(fit.refused);
    expect(fit.factor).toBeCloseTo(1.08, 2);
    expect(momentsOfLog({ ...log, fields: fields.slice(1) })).toBeNull();
  });

  it('is nothing where there is no tube', () => {
    const without = flight(1).map(({ toldAirspeedMps, ...p }) => p);
    expect(circleSamplesOf(momentsOfTrack(without))).toEqual([]);
  });
});
