import * as z from 'zod';
import { boardDescriptionSchema } from '../board/description.ts';
import {
  crossRuleSchema,
  heldValueSchema,
  settingEntrySchema,
  settingValueSchema,
} from '../settings/catalogueSchema.ts';

/** The link's messages (docs/link.md). Field names are short because they travel often. */
export const LINK_VERSION = 1;
/** How long a bench command to an output lives without being said again, ms. */
export const DEAD_MAN_MS = 300;
export const PAGE_ENTRIES = 64;

const id = z.number().int().min(0).max(0xffffffff);
const count = z.number().int().min(0).max(100_000);
/** Which run of the board a command is for, and which number it has there (`acts.ts`). */
const act = z.tuple([id, id]).optional();

/** Output of a part that a request is passed on to. */
const to = count.optional();

/** What an image says of itself (formats/firmwareImage.ts). */
export const imageInfoSchema = z.object({
  product: z.string().max(16),
  target: z.string().max(24),
  version: z.string().max(16),
  size: id,
  crc: id,
});

/** Where a servo is brought on the bench: its set ends and centre, its own middle of 1500 us, or to and fro between the ends. */
const benchTargets = [
  'low',
  'centre',
  'middle',
  'high',
  'sweep',
  'middle-from-low',
  'middle-from-high',
] as const;
export type BenchTarget = (typeof benchTargets)[number];

export const requestSchema = z.discriminatedUnion('t', [
  z.object({ t: z.literal('hello'), id, link: count }),
  z.object({ t: z.literal('describe'), id }),
  z.object({ t: z.literal('catalogue'), id, from: count }),
  z.object({ t: z.literal('rules'), id }),
  z.object({ t: z.literal('values'), id, from: count }),
  z.object({ t: z.literal('write-begin'), id, act, session: id, base: z.string().max(16) }),
  z.object({
    t: z.literal('write-put'),
    id,
    session: id,
    part: count,
    items: z.array(z.tuple([z.string().max(60), settingValueSchema])).max(128),
  }), // prettier-ignore
  z.object({ t: z.literal('write-commit'), id, act, session: id, count, sum: z.string().max(16) }),
  z.object({ t: z.literal('write-status'), id, session: id }),
  z.object({ t: z.literal('subscribe'), id, group: z.string().max(30), hz: z.number().min(0).max(100) }),
  z.object({ t: z.literal('stream'), id, source: z.string().max(30), hz: z.number().min(0).max(100_000) }),
  z.object({ t: z.literal('bench-allow'), id, act, propellersOff: z.boolean() }),
  z.object({
    t: z.literal('bench-move'),
    id,
    act,
    output: count,
    run: id,
    /** Of a servo: where to, slowly; left out, a swing that shows which way is first. */
    to: z.enum(benchTargets).optional(),
  }),
  z.object({ t: z.literal('bench-stop'), id, act }),
  z.object({
    t: z.literal('procedure-start'),
    id,
    act,
    run: id,
    kind: z.string().max(30),
    with: z.record(z.string().max(30), settingValueSchema),
  }), // prettier-ignore
  z.object({ t: z.literal('procedure-state'), id, run: id }),
  z.object({ t: z.literal('procedure-cancel'), id, act, run: id }),
  z.object({ t: z.literal('heard'), id, port: z.enum(['gnss', 'receiver']) }),
  /** Route and fences as bytes (`core/plan/plan.ts`), in parts. */
  z.object({ t: z.literal('plan-read'), id, from: count, count }),
  z.object({
    t: z.literal('plan-begin'),
    id,
    act,
    session: id,
    base: z.string().max(16),
    size: count,
    crc: id,
  }),
  z.object({ t: z.literal('plan-put'), id, session: id, at: count, bytes: z.instanceof(Uint8Array) }),
  z.object({ t: z.literal('plan-commit'), id, act, session: id }),
  z.object({ t: z.literal('plan-status'), id, session: id }),
  z.object({ t: z.literal('restart'), id, act }),
  z.object({ t: z.literal('decisions'), id, from: count }),
  z.object({ t: z.literal('log-list'), id }),
  z.object({ t: z.literal('log-read'), id, flight: count, from: id, count }),
  /** Throws away the flights up to one, that one as well. */
  z.object({ t: z.literal('log-clear'), id, act, upTo: count }),
  z.object({ t: z.literal('enter-loader'), id, act }),
  /** With an output, of the loader of the motor controller on it; else of the board's own. */
  z.object({ t: z.literal('loader-state'), id, to }),
  z.object({ t: z.literal('self-test'), id }),
  z.object({ t: z.literal('loader-begin'), id, act, plan: imageInfoSchema, wipe: z.boolean(), to }),
  z.object({ t: z.literal('loader-block'), id, at: id, bytes: z.instanceof(Uint8Array), crc: id, to }),
  z.object({ t: z.literal('loader-verify'), id, to }),
  z.object({ t: z.literal('loader-start'), id, act, to }),
]);
export type Request = z.infer<typeof requestSchema>;

/** Why, as a word (`refusals.ts`); empty where the board says none. */
const code = z.string().max(40).catch('');
const refusalSchema = z.object({ key: z.string().max(60), code, why: z.string().max(400) });

/** A sensor whose samples can be had as they are. */
const streamSourceSchema = z.object({
  source: z.string().max(30),
  /** Of each sample, in the order in which they travel. */
  fields: z.array(z.string().max(20)).min(1).max(8),
  unit: z.string().max(20),
  /** The rate at which the sensor gives them, Hz. */
  mostHz: z.number().positive(),
});
export type StreamSource = Readonly<z.infer<typeof streamSourceSchema>>;

/** What a board can be asked for: kinds of requests, groups of telemetry, procedures, raw streams. */
const abilitiesSchema = z.object({
  requests: z.array(z.string().max(30)).max(64),
  telemetry: z.array(z.string().max(30)).max(32),
  procedures: z.array(z.string().max(30)).max(64).default([]),
  streams: z.array(streamSourceSchema).max(32).default([]),
});
export type Abilities = z.infer<typeof abilitiesSchema>;

const identitySchema = z.object({
  board: z.string().max(60),
  revision: z.string().max(20),
  /** Firmware builds for it. */
  target: z.string().max(24),
  firmware: z.string().max(40),
  version: z.string().max(20),
  serial: z.string().max(40),
  link: count,
  settings: count,
  fingerprint: z.string().max(16),
  uptimeS: z.number(),
  restartCause: z.string().max(80),
  /** How commands that act are numbered; left out by a board that wants no numbers. */
  acts: z.object({ key: id, after: id }).optional(),
  /** A board that does not say it can only be met and read. */
  can: abilitiesSchema.default({
    requests: ['hello', 'catalogue', 'values'],
    telemetry: [],
    procedures: [],
    streams: [],
  }),
  note: z.string().max(300).optional(),
});
export type Identity = z.infer<typeof identitySchema>;

export const selfTestSchema = z.object({
  /** The board has listened for long enough to tell. */
  settled: z.boolean(),
  items: z
    .array(
      z.object({
        /** Bus, port or place. */
        on: z.string().max(30),
        what: z.string().max(60),
        /** How it answers: `answers`, `silent`, `garbage`, `crossed`, `missing`, `full`, or the board's own word. */
        state: z.string().max(20),
        /** What that means; empty where all is well. */
        says: z.string().max(300),
        /** Firmware of its own, where it has one and told. */
        product: z.string().max(30).optional(),
        version: z.string().max(20).optional(),
      }),
    )
    .max(64),
});
export type SelfTest = z.infer<typeof selfTestSchema>;

/** How far something is that takes the board a while, or how it ended. */
const procedureReportSchema = z.object({
  /** `none`: nothing of this number is known, as after a restart. */
  state: z.enum(['none', 'running', 'done', 'failed', 'cancelled']),
  progress: z.number().min(0).max(1),
  /** For a person: what it waits for, what came of it, or why it failed. */
  says: z.string().max(300),
  /** Why it failed, as a word; else empty. */
  code,
  /** What it found, by name, once it is done. */
  result: z.record(z.string().max(30), settingValueSchema),
});
export type ProcedureReport = z.infer<typeof procedureReportSchema>;

/** What a request is answered with, by its `t`. */
export const answerSchemas = {
  hello: identitySchema,
  describe: boardDescriptionSchema,
  /** An entry without a key of its own is null. */
  catalogue: z.object({ total: count, entries: z.array(settingEntrySchema.nullable().catch(null)).max(256) }),
  /** A rule of a kind that is not known is null: the board enforces it all the same. */
  rules: z.object({ rules: z.array(crossRuleSchema.nullable().catch(null)).max(256) }),
  values: z.object({
    total: count,
    items: z.array(z.tuple([z.string().max(60), heldValueSchema])).max(512),
  }),
  'write-begin': z.object({ base: z.string().max(16) }),
  'write-put': z.object({ parts: count }),
  'write-commit': z.object({
    state: z.enum(['storing', 'stored', 'refused']),
    refusals: z.array(refusalSchema).max(512),
  }),
  'write-status': z.object({
    state: z.enum(['none', 'open', 'storing', 'stored', 'failed']),
    fingerprint: z.string().max(16),
    restartNeeded: z.boolean(),
  }), // prettier-ignore
  subscribe: z.object({ hz: z.number() }),
  stream: z.object({ hz: z.number() }),
  'bench-allow': z.object({ allowed: z.boolean() }),
  'bench-move': z.object({ output: count }),
  'bench-stop': z.object({}),
  'procedure-start': z.object({ run: id }),
  'procedure-state': procedureReportSchema,
  'procedure-cancel': procedureReportSchema,
  /** The newest bytes of a port as they came, and the speed at which it listens. */
  heard: z.object({ baud: z.number(), bytes: z.instanceof(Uint8Array) }),
  'plan-read': z.object({ total: count, print: z.string().max(16), bytes: z.instanceof(Uint8Array) }),
  'plan-begin': z.object({}),
  'plan-put': z.object({}),
  'plan-commit': z.object({}),
  'plan-status': z.object({
    state: z.enum(['none', 'open', 'storing', 'stored', 'failed']),
    print: z.string().max(16),
  }),
  restart: z.object({}),
  decisions: z.object({
    total: count,
    from: count,
    items: z.array(z.object({ atS: z.number(), text: z.string().max(400) })).max(64),
  }),
  'log-list': z.object({
    flights: z
      .array(z.object({ flight: count, startedS: z.number(), bytes: id, whole: z.boolean() }))
      .max(256),
  }),
  'log-read': z.object({ bytes: z.instanceof(Uint8Array) }),
  'log-clear': z.object({ left: count }),
  'enter-loader': z.object({}),
  'loader-state': z.object({
    target: z.string().max(24),
    flashBytes: id,
    blockBytes: count,
    plan: imageInfoSchema.nullable(),
    /** 1 for each block that is written whole. */
    whole: z.instanceof(Uint8Array),
    /** Bytes still to be erased. */
    erasing: id,
    verified: z.boolean(),
  }),
  'self-test': selfTestSchema,
  'loader-begin': z.object({}),
  'loader-block': z.object({}),
  'loader-verify': z.object({}),
  'loader-start': z.object({}),
} as const;
export type RequestKind = keyof typeof answerSchemas;
export const requestKinds = Object.keys(answerSchemas) as readonly RequestKind[];
export type Answer<K extends RequestKind> = z.infer<(typeof answerSchemas)[K]>;

/** From the board: an answer, a refusal of the whole request, or telemetry. */
export const fromBoardSchema = z.discriminatedUnion('t', [
  z.object({ t: z.literal('ok'), id, a: z.unknown() }),
  z.object({ t: z.literal('no'), id, code, why: z.string().max(400) }),
  z.object({
    t: z.literal('st'),
    s: z.string().max(30),
    n: id,
    at: z.number(),
    dt: z.number().positive(),
    v: z.instanceof(Uint8Array),
  }),
  z.object({ t: z.literal('tm'), g: z.string().max(30), n: id, at: z.number(), v: z.unknown() }),
]);
