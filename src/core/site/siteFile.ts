import * as z from 'zod';
import { parsed } from '#core/parsed.ts';
import type { Terrain } from '../flight/terrain.ts';
import { crc32 } from '../wire/crc32.ts';
import { makeSite, type Site, siteFields } from './site.ts';

const SITE_FORMAT = 'wanderweg-site';
const SITE_VERSION = 1;
export const MAX_SITE_BYTES = 12_000_000;
export const MAX_CELLS = 1_500_000;
/** Heights are kept in tenths of a metre. */
const PER_M = 10;

const groundSchema = z.strictObject({
  origin: z.strictObject({ lat: z.number().min(-90).max(90), lon: z.number().min(-180).max(180) }),
  columns: z.number().int().min(2).max(8000),
  rows: z.number().int().min(2).max(8000),
  cellM: z.number().min(1).max(2000),
  /** East and north of the origin, of the centre of the lower left cell, m. */
  westM: z.number().min(-2e5).max(2e5),
  southM: z.number().min(-2e5).max(2e5),
  /** Share of the heights that nobody measured; left out for none. */
  guessedShare: z.number().min(0).max(1).optional(),
  /** Tenths of a metre above sea level as 16-bit little-endian numbers in base64, row by row from the north-west. */
  heights: z.string().max(MAX_SITE_BYTES),
});

/** A site as people keep it: `*.wanderweg-site.json`. */
export const siteFileSchema = z.object({
  format: z.literal(SITE_FORMAT),
  version: z.literal(SITE_VERSION),
  ...siteFields,
  ground: groundSchema.nullable(),
});

export type ReadSite = { ok: true; site: Site } | { ok: false; why: string };

/** Reads a site file. Nothing is taken from one that is not right as a whole; the sentence says why. */
export function readSiteFile(text: string): ReadSite {
  if (text.length > MAX_SITE_BYTES)
    return fail(
      `The file has ${(text.length / 1e6).toFixed(0)} MB; a site has at most ${MAX_SITE_BYTES / 1e6} MB. It was not opened.`,
    );
  let raw: unknown;
  try {
    raw = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch {
    return fail('The file is not JSON, so it cannot be a site. Nothing was changed.');
  }
  const head = (typeof raw === 'object' && raw !== null ? raw : {}) as {
    format?: unknown;
    version?: unknown;
  };
  if (head.format !== SITE_FORMAT)
    return fail(`The file is no site: its format is not "${SITE_FORMAT}". Nothing was changed.`);
  if (typeof head.version === 'number' && head.version > SITE_VERSION)
    return fail(
      `The file was made by a newer Wanderweg (version ${head.version}; this one reads ${SITE_VERSION}). It is left as it is.`,
    );
  const result = parsed(siteFileSchema, raw);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    return fail(
      `In the site, ${issue.path.join('.') || 'the whole'} is not right: ${issue.message}. Nothing was changed.`,
    );
  }
  const { format, version, ground, ...fields } = result.data;
  if (!ground) return { ok: true, site: makeSite(fields, null) };
  const { heights: packed, guessedShare, ...grid } = ground;
  const heights = unpack(packed, grid.columns * grid.rows);
  if (!heights)
    return fail(
      `In the site, the ground has not the ${grid.columns} × ${grid.rows} heights that it says. Nothing was changed.`,
    );
  return {
    ok: true,
    site: makeSite(fields, {
      ...grid,
      ...(guessedShare === undefined ? {} : { guessedShare }),
      known: true,
      heights,
    }),
  };
}

/** The text of a site file, format and version first. */
export function writeSiteFile(site: Site): string {
  const { bare, terrain, ...fields } = site;
  const { known, heights, ...grid } = bare;
  const ground = known ? { ...grid, heights: pack(heights) } : null;
  return `${JSON.stringify({ format: SITE_FORMAT, version: SITE_VERSION, ...fields, ground }, null, 1)}\n`;
}

const prints = new WeakMap<Site, string>();

/** A short name for all that a flight meets at a site but home, which is the scenario's: ground, air, the year. */
export function sitePrint(site: Site): string {
  let print = prints.get(site);
  if (print === undefined) {
    const { known, heights, ...grid } = site.terrain;
    const head = new TextEncoder().encode(JSON.stringify([known, grid, site.air ?? null, site.year]));
    const ground = known
      ? new Uint8Array(heights.buffer, heights.byteOffset, heights.byteLength)
      : new Uint8Array();
    print = `${crc32(head).toString(16)}${crc32(ground).toString(16)}`;
    prints.set(site, print);
  }
  return print;
}

function fail(why: string): ReadSite {
  return { ok: false, why };
}

function pack(heights: Terrain['heights']): string {
  const bytes = new Uint8Array(2 * heights.length);
  const view = new DataView(bytes.buffer);
  for (let i = 0; i < heights.length; i++) view.setInt16(2 * i, Math.round(heights[i]! * PER_M), true);
  let text = '';
  const CHUNK = 0x6000;
  for (let i = 0; i < bytes.length; i += CHUNK)
    text += btoa(String.fromCharCode(...bytes.subarray(i, i + CHUNK)));
  return text;
}

function unpack(text: string, count: number): Float32Array | null {
  if (count > MAX_CELLS) return null;
  let raw: string;
  try {
    raw = atob(text);
  } catch {
    return null;
  }
  if (raw.length !== 2 * count) return null;
  const heights = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const n = raw.charCodeAt(2 * i) | (raw.charCodeAt(2 * i + 1) << 8);
    heights[i] = (n > 0x7fff ? n - 0x10000 : n) / PER_M;
  }
  return heights;
}
