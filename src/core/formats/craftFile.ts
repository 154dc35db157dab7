import * as z from 'zod';
import { parsed } from '#core/parsed.ts';
import { actuatorNames, isFitting } from '../airframe/actuators.ts';
import { actuatorsOf, airframeSchema } from '../airframe/airframe.ts';
import { inconsistencies } from '../airframe/consistency.ts';
import { boardRefSchema, targetNamed } from '../board/boardRef.ts';
import { wishesSchema } from '../board/wishes.ts';
import { fieldBookSchema } from '../field/fieldBook.ts';
import { transmitterSchema } from '../modes/transmitter.ts';
import { planFaults, planSchema } from '../plan/plan.ts';
import { proofSchema } from '../proofs/proofs.ts';
import { searchSchema } from '../search/lastSeen.ts';
import { settingValueSchema } from '../settings/catalogueSchema.ts';
import { videoSupplySchema } from '../video/supply.ts';
import { benchTruthSchema } from './benchTruth.ts';

export const CRAFT_FORMAT = 'wanderweg-craft';
export const CRAFT_VERSION = 3;
export const MAX_CRAFT_BYTES = 5_000_000;

/** A craft as people keep it: `*.wanderweg.json`. Fields we do not know are kept as they are. */
export const craftFileSchema = z.object({
  format: z.literal(CRAFT_FORMAT),
  version: z.literal(CRAFT_VERSION),
  name: z.string().min(1).max(80),
  /** The one board that it is for. */
  board: boardRefSchema,
  airframe: airframeSchema,
  /** Settings as last read from the board; those left out have the board's default. */
  settings: z.record(z.string().max(60), settingValueSchema),
  /** Edits that were not yet written. */
  edits: z.record(z.string().max(60), settingValueSchema).default({}),
  proofs: z.array(proofSchema).max(500).default([]),
  notes: z.string().max(100_000).default(''),
  /** Named set-up worked on, such as "survey camera"; empty for the usual one. */
  setup: z.string().max(60).default(''),
  /** What is to be connected to its board; left out, the craft as its settings say. */
  wiring: z.object({ wishes: wishesSchema }).optional(),
  /** Name of the site that it is set up for. */
  site: z.string().max(60).optional(),
  /** Its transmitter, as far as it was seen. */
  transmitter: transmitterSchema.optional(),
  /** Its route and fences; left out where there are none. */
  plan: planSchema.optional(),
  /** How far its transmitter is heard with nothing in between, m; left out where nobody said. */
  linkM: z.number().min(0).max(200_000).optional(),
  /** What its video transmitter lives on; left out where nobody said. */
  video: videoSupplySchema.optional(),
  /** Its days out: what it flies with, and what was signed off. */
  field: fieldBookSchema.optional(),
  /** A search for it that is under way. */
  lost: searchSchema.optional(),
  bench: benchTruthSchema.optional(),
});
export type CraftFile = z.infer<typeof craftFileSchema>;

export type ReadCraft = { ok: true; craft: CraftFile } | { ok: false; why: string };

/** Reads a craft file. Nothing is taken from a file that is not right as a whole; the sentence says why. */
export function readCraftFile(text: string): ReadCraft {
  if (text.length > MAX_CRAFT_BYTES) {
    return fail(
      `The file has ${(text.length / 1e6).toFixed(0)} MB; a craft has well under ${MAX_CRAFT_BYTES / 1e6} MB. It was not opened.`,
    );
  }
  let raw: unknown;
  try {
    raw = JSON.parse(text.replace(/^\uFEFF/, ''));
  } catch (error) {
    const where = /position (\d+)/.exec(String(error))?.[1];
    const line = where === undefined ? '' : ` near line ${text.slice(0, Number(where)).split('\n').length}`;
    return fail(`The file is not JSON${line}, so it cannot be a craft. Nothing was changed.`);
  }
  if (typeof raw !== 'object' || raw === null || Array.isArray(raw))
    return fail('The file is JSON but not a craft. Nothing was changed.');
  const bad = dangerousKey(raw, 0);
  if (bad !== null) return fail(`The file holds ${bad}, which no craft has. It was not opened.`);
  const { format, version } = raw as { format?: unknown; version?: unknown };
  if (format !== CRAFT_FORMAT)
    return fail(
      `The file is JSON but not a craft: its format is not "${CRAFT_FORMAT}". Nothing was changed.`,
    );
  if (typeof version === 'number' && version > CRAFT_VERSION) {
    return fail(
      `The file was made by a newer Wanderweg (version ${version}; this one reads ${CRAFT_VERSION}). It is left as it is. Open it with the newer one.`,
    );
  }
  let current = raw as Record<string, unknown>;
  if (version === 1) current = fromVersion1(current);
  if (version === 1 || version === 2) current = fromVersion2(current);
  const result = parsed(craftFileSchema, current);
  if (!result.success) {
    const issue = result.error.issues[0]!;
    return fail(
      `In the file, ${issue.path.join('.') || 'the whole'} is not right: ${issue.message}. Nothing was changed.`,
    );
  }
  const { plan } = result.data;
  const [drawn] = plan ? planFaults(plan) : [];
  if (drawn) return fail(`In the file, the fences are not right: ${drawn} Nothing was changed.`);
  const [wrong] = [...inconsistencies(result.data.airframe), ...benchFaults(result.data)];
  if (wrong)
    return fail(`The parts of the craft in the file do not fit together. ${wrong} Nothing was changed.`);
  return { ok: true, craft: keepUnknown(current, result.data) as CraftFile };
}

/** What is on the bench has to be of this craft. */
function benchFaults({ airframe, bench }: CraftFile): string[] {
  const own = new Set<string>(actuatorsOf(airframe));
  const seen = new Set<string>();
  return (bench?.pads ?? []).flatMap(({ actuator, output }) => {
    // What it carries may be taken off and put back.
    if (!own.has(actuator) && !isFitting(actuator))
      return [`On the bench a ${actuatorNames[actuator]} is wired that the craft has not.`];
    for (const name of [actuator, `output ${output}`]) {
      if (seen.has(name)) return [`On the bench ${name.replaceAll('-', ' ')} is wired twice.`];
      seen.add(name);
    }
    return [];
  });
}

/** Version 1 named wing, tail and fin one by one; version 2 lists them. */
function fromVersion1(raw: Record<string, unknown>): Record<string, unknown> {
  const airframe = raw.airframe;
  if (!isPlain(airframe)) return raw;
  const { wing, tail, fin, ...rest } = airframe;
  const planforms = Object.entries({ wing, tail, fin }).flatMap(([id, p]) =>
    isPlain(p) ? [{ ...p, id, pair: id !== 'fin' }] : [],
  );
  return { ...raw, airframe: { ...rest, planforms } };
}

/** A proof of version 2 rested on settings alone; it is kept, and shown as one that something changed since. */
function withRests(proof: unknown): unknown {
  if (!isPlain(proof)) return proof;
  const { fingerprint, ...rest } = proof;
  return { ...rest, rests: typeof fingerprint === 'string' ? { settings: fingerprint } : {} };
}

/** Version 2 named the board, and the one that was wired apart from it; version 3 knows one board by its target. */
function fromVersion2(raw: Record<string, unknown>): Record<string, unknown> {
  const { board, wiring, proofs, ...rest } = raw;
  if (!isPlain(board)) return raw;
  const { name, ...known } = board;
  const { target: wired, ...wires } = isPlain(wiring) ? wiring : {};
  const target = typeof wired === 'string' ? wired : targetNamed(String(name));
  return {
    ...rest,
    version: CRAFT_VERSION,
    board: { ...known, target },
    ...(Array.isArray(proofs) ? { proofs: proofs.map(withRests) } : {}),
    ...(wiring === undefined ? {} : { wiring: isPlain(wiring) ? wires : wiring }),
  };
}

/** The text of a craft file, format and version first. */
export function writeCraftFile(craft: CraftFile): string {
  const { format, version, name, ...rest } = craft;
  return `${JSON.stringify({ format, version, name, ...rest }, null, 2)}\n`;
}

function fail(why: string): ReadCraft {
  return { ok: false, why };
}

const MAX_DEPTH = 40;

function dangerousKey(value: unknown, depth: number): string | null {
  if (typeof value !== 'object' || value === null) return null;
  if (depth > MAX_DEPTH) return 'parts nested too deeply';
  for (const key of Object.keys(value)) {
    if (key === '__proto__' || key === 'constructor' || key === 'prototype') return `a field named ${key}`;
    const inner = dangerousKey((value as Record<string, unknown>)[key], depth + 1);
    if (inner !== null) return inner;
  }
  return null;
}

/** The checked value with the fields the schema does not know put back where they were. */
function keepUnknown(raw: unknown, checked: unknown): unknown {
  if (Array.isArray(raw) && Array.isArray(checked)) return checked.map((c, i) => keepUnknown(raw[i], c));
  if (isPlain(raw) && isPlain(checked)) {
    const out: Record<string, unknown> = {};
    for (const key of Object.keys(raw)) if (!(key in checked)) out[key] = raw[key];
    for (const key of Object.keys(checked))
      out[key] = key in raw ? keepUnknown(raw[key], checked[key]) : checked[key];
    return out;
  }
  return checked;
}

function isPlain(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}
