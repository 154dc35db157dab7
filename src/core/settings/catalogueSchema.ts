import * as z from 'zod';

/** How a setting is set. `other` is a kind that this application does not know: shown as text, and not set from here. */
const settingTypes = ['number', 'integer', 'choice', 'flag', 'text', 'other'] as const;

/**
 * What a board says about one of its settings. Only the key must be right: what else is missing or not understood is
 * read as the least that can be said, so that one odd setting does not hide the others.
 */
export const settingEntrySchema = z.object({
  key: z.string().min(1).max(60),
  group: z.string().min(1).max(40).catch('Others'),
  label: z.string().min(1).max(60).catch(''),
  meaning: z.string().min(1).max(300).catch('The board says nothing more of it.'),
  type: z.enum(settingTypes).catch('other'),
  /** One of `core/units`, or the board's own word. */
  unit: z.string().max(20).catch('none'),
  min: z.number().optional().catch(undefined),
  max: z.number().optional().catch(undefined),
  step: z.number().positive().optional().catch(undefined),
  choices: z
    .array(z.object({ value: z.string().max(40), label: z.string().max(60) }))
    .max(64)
    .optional()
    .catch(undefined),
  default: z.union([z.number(), z.string(), z.boolean()]).catch(''),
  effect: z.enum(['now', 'restart']).catch('restart'),
});
export type SettingEntry = z.infer<typeof settingEntrySchema>;

/** A rule over several settings that the board itself enforces at commit. */
export const crossRuleSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('below'), a: z.string(), b: z.string(), gap: z.number(), why: z.string() }),
  z.object({
    kind: z.literal('different'),
    keys: z.array(z.string()).max(32),
    except: z.string(),
    why: z.string(),
  }),
]);
export type CrossRule = z.infer<typeof crossRuleSchema>;

export const settingValueSchema = z.union([z.number(), z.string().max(64), z.boolean()]);

/** A value as a board holds it: one of a kind that is not known is read as text. */
export const heldValueSchema = settingValueSchema.catch(({ value }) =>
  (typeof value === 'string' ? value : (JSON.stringify(value) ?? 'nothing')).slice(0, 64),
);
