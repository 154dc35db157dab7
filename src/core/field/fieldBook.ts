import * as z from 'zod';

/** Batteries and propellers by name, the flights that were signed off with them, and those that were read from a board. */

export const kitKinds = ['battery', 'propeller'] as const;
export type KitKind = (typeof kitKinds)[number];

const kitItemSchema = z.object({
  kind: z.enum(kitKinds),
  /** As a person marks it: "B3", "9x6 grey". Unlike every other of its kind. */
  name: z.string().trim().min(1).max(30),
  /** Since when it is used, RFC 3339 date. */
  since: z.string().regex(/^\d{4}-\d{2}-\d{2}$/),
});
export type KitItem = Readonly<z.infer<typeof kitItemSchema>>;

const signOffSchema = z.object({
  /** RFC 3339 */
  at: z.string().max(40),
  /** Name of the site, and the place on it where that was known. */
  site: z.string().max(60),
  lat: z.number().min(-90).max(90).optional(),
  lon: z.number().min(-180).max(180).optional(),
  battery: z.string().max(30).default(''),
  propeller: z.string().max(30).default(''),
  windMps: z.number().min(0).max(50).optional(),
  /** Lines that were proven, of how many; and titles of those that were not. */
  proven: z.number().int().min(0),
  of: z.number().int().min(0),
  open: z.array(z.string().max(60)).max(60),
});
export type SignOff = Readonly<z.infer<typeof signOffSchema>>;

export const MOST_SIGN_OFFS = 2000;

const figure = z.number().min(0).max(1e7);

/** A flight that was read from a board. Boards keep no date: it is known by board and number, and when it was read. */
const flownFlightSchema = z.object({
  serial: z.string().max(40),
  flight: z.number().int().min(1),
  /** Since the board was switched on, s: a store that was cleaned counts anew. */
  startedS: figure,
  /** RFC 3339 */
  readAt: z.string().max(40),
  /** The time of the sign-off that it was flown after; left out where there was none. */
  signedAt: z.string().max(40).optional(),
  battery: z.string().max(30).default(''),
  propeller: z.string().max(30).default(''),
  /** In the air, s. */
  seconds: figure,
  /** Over ground, and from home at most; over its start at most, m. */
  wayM: figure,
  farthestM: figure,
  highestM: z.number().min(-10_000).max(50_000),
  drawnMah: figure.optional(),
  leastV: figure.optional(),
  /** Of battery and lead. */
  ohm: z.number().min(0).max(10).optional(),
  windMps: z.number().min(0).max(100).optional(),
  /** Kinds of what surprised. */
  surprises: z.array(z.string().max(20)).max(40),
  /** Latitude and longitude of a few places of its track, one after the other, to know it by. */
  stamp: z.array(z.number().min(-180).max(180)).max(120),
});
export type FlownFlight = Readonly<z.infer<typeof flownFlightSchema>>;
export const MOST_FLIGHTS = 2000;

/** What of a craft's days out is kept in its file. */
export const fieldBookSchema = z.object({
  kit: z.array(kitItemSchema).max(200).default([]),
  signOffs: z.array(signOffSchema).max(MOST_SIGN_OFFS).default([]),
  flown: z.array(flownFlightSchema).max(MOST_FLIGHTS).default([]),
});
export type FieldBook = Readonly<z.infer<typeof fieldBookSchema>>;
export const EMPTY_BOOK: FieldBook = { kit: [], signOffs: [], flown: [] };
