import type { Airframe } from '../airframe/airframe.ts';
import type { BoardDescription } from '../board/description.ts';
import type { Wishes } from '../board/wishes.ts';
import type { HomeGround } from '../flight/terrain.ts';
import type { Catalogue, Values } from '../settings/catalogue.ts';
import type { Edits } from '../settings/draft.ts';
import { type LegId, type StationId, stationLeg } from './stations.ts';

export type Severity = 'blocks' | 'caution';

export interface Finding {
  /** The rule, and the thing where a rule can strike several times. */
  readonly id: string;
  readonly severity: Severity;
  readonly leg: LegId;
  readonly station: StationId;
  readonly title: string;
  readonly why: string;
  /** Settings it is about. */
  readonly keys: readonly string[];
  readonly fix?: { readonly label: string; readonly edits: Edits };
}

/** What the rules look at. Pure data; equal input gives equal findings. */
export interface FindingInput {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly catalogue: Catalogue;
  /** Of the board that the craft is for. */
  readonly description?: BoardDescription | undefined;
  /** Ground about home, where it is known, and home on it. */
  readonly ground?: HomeGround | undefined;
  /** What is to be connected to it, where that was said. */
  readonly wiring?: { readonly wishes: Wishes } | undefined;
}

export type Rule = (input: FindingInput) => Finding[];

/** A finding, put on the leg of its station. */
export const finding = (
  id: string,
  severity: Severity,
  station: StationId,
  title: string,
  why: string,
  keys: readonly string[],
  fix?: Finding['fix'],
): Finding => ({
  id,
  severity,
  leg: stationLeg(station),
  station,
  title,
  why,
  keys,
  ...(fix ? { fix } : {}),
});

/** A number among the values. */
export const num = (values: Values, key: string) => values[key] as number;
/** Every output and what it drives. */
export const outputsOf = (values: Values) =>
  Object.keys(values).flatMap((k) => {
    const n = /^out\.(\d+)\.drives$/.exec(k)?.[1];
    return n ? [{ n: Number(n), drives: values[k] as string }] : [];
  });
