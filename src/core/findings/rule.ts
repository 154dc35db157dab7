import type { Airframe } from '../airframe/airframe.ts';
import type { BoardDescription } from '../board/description.ts';
import type { Wishes } from '../board/wishes.ts';
import type { FailCell } from '../fails/failCell.ts';
import type { HomeGround } from '../flight/terrain.ts';
import type { Transmitter } from '../modes/transmitter.ts';
import type { FlightPlan } from '../plan/plan.ts';
import type { RouteProblem } from '../plan/routeProblems.ts';
import type { Proof, ProofWorld } from '../proofs/proofs.ts';
import type { Catalogue, Values } from '../settings/catalogue.ts';
import type { Edits } from '../settings/draft.ts';
import type { NumberKey, SettingKey } from '../settings/typed.ts';
import type { Site } from '../site/site.ts';
import type { UnitSystem } from '../units/units.ts';
import type { SelfTest } from '../wire/messages.ts';
import type { Status } from '../wire/telemetry.ts';

/** Stations that a finding can be mended at. Each names itself here, where it is declared. @public */
// biome-ignore lint/suspicious/noEmptyInterface: stations add themselves by declaration merging.
export interface StationIds {}
export type StationId = keyof StationIds & string;

export type Severity = 'blocks' | 'caution';

export interface Finding {
  /** The rule, and the thing where a rule can strike several times. */
  readonly id: string;
  readonly severity: Severity;
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
  /** Where it flies. */
  readonly site?: Pick<Site, 'home' | 'year'> | undefined;
  /** What the person reads lengths and speeds in; metric when left out. */
  readonly units?: UnitSystem | undefined;
  /** What is to be connected to it, where that was said. */
  readonly wiring?: { readonly wishes: Wishes } | undefined;
  /** Switches of the transmitter, as far as they were flicked. */
  readonly transmitter?: Transmitter | undefined;
  /** What was seen on the bench and in rehearsals, and all that it rests on as it is now. */
  readonly evidence?: { readonly proofs: readonly Proof[]; readonly world: ProofWorld } | undefined;
  /** Failures that were flown, of this draft or of one before it. */
  readonly fails?: readonly FailCell[] | undefined;
  /** Route and fences of the craft. */
  readonly plan?: FlightPlan | undefined;
  /** The plan that the board on the cable holds; undefined where none is, or it keeps none. */
  readonly boardPlan?: FlightPlan | undefined;
  /** What flying the plan in thought showed, of this draft. */
  readonly routeProblems?: readonly RouteProblem[] | undefined;
  /** Who answers on the board on the cable, where that is the one the craft is for. */
  readonly selfTest?: SelfTest | undefined;
  /** How the board on the cable is now. */
  readonly live?: LiveState | undefined;
}

/** Of what a board tells all the time, that which changes seldom and matters to the configuration. */
export type LiveState = Pick<Status, 'restartNeeded'>;

export type Rule = (input: FindingInput) => Finding[];

/** The rule of a finding, without the thing where a rule can strike several times. */
export const codeOf = (id: string): string => id.split('.')[0]!;

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
  station,
  title,
  why,
  keys,
  ...(fix ? { fix } : {}),
});

/** A rule asks for a setting that the board does not have, so it has nothing to say. */
export class NoSetting extends Error {
  constructor(readonly key: string) {
    super(`there is no setting ${key}`);
  }
}

/** For a rule that works with settings of several kinds. @throws NoSetting where the board has one of them not */
export function need(values: Values, ...keys: readonly SettingKey[]): void {
  for (const key of keys) if (values[key] === undefined) throw new NoSetting(key);
}

/** A number among the values. @throws NoSetting where the board has no such setting */
export function num(values: Values, key: NumberKey): number {
  const value = values[key];
  if (typeof value !== 'number') throw new NoSetting(key);
  return value;
}
/** Every output and what it drives. */
export const outputsOf = (values: Values) =>
  Object.keys(values).flatMap((k) => {
    const n = /^out\.(\d+)\.drives$/.exec(k)?.[1];
    return n ? [{ n: Number(n), drives: values[k] as string }] : [];
  });
