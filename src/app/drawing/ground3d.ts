import {
  AmbientLight,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  Mesh,
  MeshLambertMaterial,
  type Object3D,
  PlaneGeometry,
  Quaternion,
  Vector3,
} from 'three';
import { pooled } from '#core/flight/terrain.ts';
import { eastOf, northOf, type Place } from '#core/navigation/earth.ts';
import type { Site } from '#core/site/site.ts';

/** A site in three dimensions. Axes: x east, y up, z south, metres from the terrain's origin. */

export const token = (name: string) =>
  new Color(getComputedStyle(document.documentElement).getPropertyValue(name).trim() || '#888888');

/** So many posts of the ground are drawn at most, where nobody asks for fewer. */
const MOST_POSTS = 25_000;

/** Colours of the ground, low and high, and of the sea. */
export interface GroundColors {
  readonly low: Color;
  readonly high: Color;
  readonly sea: Color;
}

/** Those of the map. */
export const mapColors = (): GroundColors => ({
  low: token('--forest-wash'),
  high: token('--contour'),
  sea: token('--sea'),
});

/** The ground, coloured by its height. */
export function groundMesh(site: Site, { low, high, sea }: GroundColors, most = MOST_POSTS): Mesh {
  const whole = site.terrain;
  const t = pooled(whole, Math.ceil(Math.sqrt((whole.columns * whole.rows) / most)));
  const { columns, rows } = t;
  const top = Math.max(50, 0.8 * t.heights.reduce((a, b) => Math.max(a, b), 0));
  const places = new Float32Array(columns * rows * 3);
  const colors = new Float32Array(columns * rows * 3);
  const color = new Color();
  for (let j = 0; j < rows; j++) {
    for (let i = 0; i < columns; i++) {
      const h = t.heights[j * columns + i]!;
      const at = 3 * (j * columns + i);
      places[at] = t.westM + i * t.cellM;
      places[at + 1] = Math.max(h, -8);
      places[at + 2] = -(t.southM + (rows - 1 - j) * t.cellM);
      if (h <= 0.5) color.copy(sea);
      else color.copy(low).lerp(high, Math.min(1, h / top));
      color.toArray(colors, at);
    }
  }
  const faces: number[] = [];
  for (let j = 0; j + 1 < rows; j++) {
    for (let i = 0; i + 1 < columns; i++) {
      const a = j * columns + i;
      faces.push(a, a + columns, a + 1, a + 1, a + columns, a + columns + 1);
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(places, 3));
  geometry.setAttribute('color', new BufferAttribute(colors, 3));
  geometry.setIndex(faces);
  geometry.computeVertexNormals();
  return new Mesh(geometry, new MeshLambertMaterial({ vertexColors: true }));
}

/** The sea all about it. */
export function seaMesh(color: Color): Mesh {
  const sea = new Mesh(new PlaneGeometry(60_000, 60_000), new MeshLambertMaterial({ color }));
  sea.rotation.x = -Math.PI / 2;
  return sea;
}

export function daylight(): Object3D[] {
  const sun = new DirectionalLight(0xffffff, 2.2);
  sun.position.set(-4000, 5000, 3000);
  return [new AmbientLight(0xffffff, 1.6), sun];
}

/** A place on earth at a height above the sea. */
export const placeOf = (p: Place & { readonly heightM: number }, { lat, lon }: Place): Vector3 =>
  new Vector3(eastOf(lat, lon, p.lon), p.heightM, -northOf(lat, p.lat));

/** Body axes (attitude against north, east, down, rad) to the scene's axes; something whose nose is at -z turns so. */
export function turned(roll: number, pitch: number, yaw: number, out: Quaternion): Quaternion {
  const byYaw = new Quaternion().setFromAxisAngle(new Vector3(0, 1, 0), -yaw);
  const byPitch = new Quaternion().setFromAxisAngle(new Vector3(1, 0, 0), pitch);
  const byRoll = new Quaternion().setFromAxisAngle(new Vector3(0, 0, -1), roll);
  return out.copy(byYaw).multiply(byPitch).multiply(byRoll);
}
