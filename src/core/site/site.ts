import * as z from 'zod';
import {
  groundAbout,
  groundHeight,
  type HomeGround,
  levelGround,
  liesOn,
  type Terrain,
  withObstacles,
} from '../flight/terrain.ts';

const placeFields = {
  lat: z.number().min(-90).max(90),
  lon: z.number().min(-180).max(180),
};

/** Where a craft is launched and comes back to. */
export const homeSchema = z.strictObject({ ...placeFields, heightM: z.number().min(-50).max(5000) });
export type Home = z.infer<typeof homeSchema>;

export const airSchema = z.strictObject({
  pressureHpa: z.number().min(500).max(1085),
  temperatureC: z.number().min(-40).max(50),
});

const obstacleSchema = z.strictObject({
  name: z.string().min(1).max(60),
  ...placeFields,
  topM: z.number().min(-50).max(6000),
  radiusM: z.number().min(0).max(3000),
});
export const MOST_OBSTACLES = 200;

/** All of a site but its ground: what is typed in. */
export const siteFields = {
  name: z.string().trim().min(1).max(60),
  home: homeSchema,
  /** The air at home, where it was measured; the standard day when left out. */
  air: airSchema.optional(),
  /** The decimal year that the earth's field is worked out for. */
  year: z.number().min(2025).max(2030),
  obstacles: z.array(obstacleSchema).max(MOST_OBSTACLES).default([]),
  /** Names to be written on the map. */
  places: z
    .array(z.strictObject({ name: z.string().min(1).max(60), ...placeFields }))
    .max(200)
    .default([]),
};
const fieldsSchema = z.object(siteFields);
export type SiteFields = z.infer<typeof fieldsSchema>;

/** Where a craft flies: home, the ground about it, the air, the earth's field, and what stands there. */
export interface Site extends SiteFields {
  /** As it was opened, without what stands on it. */
  readonly bare: Terrain;
  /** The ground with what stands on it; level at home's height where it is not known. */
  readonly terrain: Terrain;
}

/** @param bare its ground; null where nobody knows it */
export function makeSite(fields: SiteFields, bare: Terrain | null): Site {
  const ground = bare ?? levelGround(fields.home, fields.home.heightM);
  return { ...fields, bare: ground, terrain: withObstacles(ground, fields.obstacles) };
}

/** A site of which no more is known than where home is. */
export function bareSite(home: Home, year: number, name = 'Somewhere'): Site {
  return makeSite({ name, home, year, obstacles: [], places: [] }, null);
}

const grounds = new WeakMap<Site, HomeGround>();

/** The ground about home, for findings and drawings; undefined where it is not known. */
export function groundOf(site: Site): HomeGround | undefined {
  if (!site.terrain.known) return undefined;
  let ground = grounds.get(site);
  if (!ground) {
    ground = groundAbout(site.terrain, site.home);
    grounds.set(site, ground);
  }
  return ground;
}

/** Said wherever something was worked out without knowing the ground. */
export const GROUND_UNKNOWN =
  'The ground is not known here: it was taken to be as level and as high as home. Hills, woods and masts were not seen.';

/** The decimal year of a moment, within what the model of the earth's field holds for. @param ms since 1970 */
export function fieldYear(ms: number): number {
  const year = 1970 + ms / (365.2425 * 86_400_000);
  return Math.round(10 * Math.min(2030, Math.max(2025, year))) / 10;
}

/** Whether the ground at home is the sea's, or below it. */
export function homeInSea({ bare, home }: Site): boolean {
  const { homeEastM, homeNorthM } = groundAbout(bare, home);
  return groundHeight(bare, homeEastM, homeNorthM) <= 0;
}

/** Whether home lies where the ground is known. */
export const homeOnGround = (site: Site): boolean => site.bare.known && liesOn(site.bare, site.home);
