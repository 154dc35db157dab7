import type { Terrain } from '../flight/terrain.ts';
import { latitudeAt, longitudeAt, type Place } from '../navigation/earth.ts';
import { fillGaps, gapShare } from './gaps.ts';

/** Height above sea level at a place in degrees, m; not a number where nobody measured. */
export type HeightAt = (lat: number, lon: number) => number;

/**
 * A square grid of metres about a place.
 * @param cellM side of its cells. @param reachM half its width and height, m
 * @throws Error where the ground at the place itself is not known
 */
export function gridAbout(about: Place, heightAt: HeightAt, cellM: number, reachM: number): Terrain {
  const { lat, lon } = about;
  if (Number.isNaN(heightAt(lat, lon))) throw new Error(`it does not hold home at ${lat}, ${lon}`);
  const columns = Math.floor((2 * reachM) / cellM) + 1;
  const heights = new Float32Array(columns * columns);
  for (let j = 0; j < columns; j++) {
    const rowLat = latitudeAt(lat, reachM - j * cellM);
    for (let i = 0; i < columns; i++)
      heights[j * columns + i] = heightAt(rowLat, longitudeAt(lat, lon, i * cellM - reachM));
  }
  const guessedShare = gapShare(heights);
  return {
    ...(guessedShare > 0 ? { guessedShare } : {}),
    origin: { lat, lon },
    known: true,
    columns,
    rows: columns,
    cellM,
    westM: -reachM,
    southM: -reachM,
    heights: fillGaps(heights, columns, columns),
  };
}
