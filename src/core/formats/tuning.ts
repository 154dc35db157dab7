import * as z from 'zod';
import { settingValueSchema } from '../settings/catalogueSchema.ts';

const finite = z.number();

/** How one axis answered: of what was asked, shares and seconds. */
const answerSchema = z.strictObject({
  riseS: finite.nullable(),
  delayS: finite.nullable(),
  overshoot: finite,
  /** Two standard deviations of the answer, share. */
  sure: finite,
});

/** A flight by which settings it was flown and how it answered: what is kept of it beside its settings. */
export const tuningSchema = z.strictObject({
  id: z.string().min(1).max(40),
  /** The craft among those kept side by side. */
  craft: z.string().max(60),
  /** Of the log, or what else it was. */
  name: z.string().min(1).max(200),
  from: z.enum(['log', 'bench']),
  /** When it was looked at, RFC 3339. */
  at: z.iso.datetime({ offset: true }),
  seconds: finite,
  /** m/s, 0 of rotors */
  speedMps: finite,
  /** Settings that tuning is made of, of the version that everything is written for. */
  values: z.record(z.string().max(60), settingValueSchema),
  /** What was not flown as it is written, in the board's words. */
  moved: z.array(z.string().max(300)).max(8).default([]),
  answers: z.strictObject({
    roll: answerSchema.nullable(),
    pitch: answerSchema.nullable(),
    yaw: answerSchema.nullable(),
  }),
  note: z.string().max(500),
});
export type Tuning = Readonly<z.infer<typeof tuningSchema>>;
export type TunedAnswer = Readonly<z.infer<typeof answerSchema>>;
