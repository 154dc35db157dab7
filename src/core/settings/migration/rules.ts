import type { UnitId } from '../../units/units.ts';
import type { SettingValue } from '../catalogue.ts';
import type { SettingEntry } from '../catalogueSchema.ts';

/**
 * How settings of one firmware version correspond to those of the next: written tables, no code. Keys may hold
 * `{}`, which stands for any one part of a key and is the same on both sides.
 */
export type MigrationRule =
  /** The same setting under another key. */
  | { readonly kind: 'rename'; readonly old: string; readonly new: string }
  /** new = old * factor; `old` is how the older version keeps it, `newer` how the newer does where that is not known yet. */
  | {
      readonly kind: 'scale';
      readonly old: string;
      readonly new: string;
      readonly factor: number;
      readonly formula: string;
      readonly why: string;
      readonly kept: Kept;
    }
  /** new = product / old */
  | {
      readonly kind: 'inverse';
      readonly old: string;
      readonly new: string;
      readonly product: number;
      readonly formula: string;
      readonly why: string;
      readonly kept: Kept;
    }
  /** new = old / value of `by`, a setting that both versions have under this key. */
  | {
      readonly kind: 'share';
      readonly old: string;
      readonly new: string;
      readonly by: string;
      readonly formula: string;
      readonly why: string;
      readonly kept: Kept;
    }
  /** Each choice of the older version and what it is called in the newer; what is not named cannot be had there. */
  | {
      readonly kind: 'choices';
      readonly old: string;
      readonly new: string;
      readonly map: readonly (readonly [old: string | boolean, now: string | boolean])[];
      readonly why?: string;
    }
  /** One setting became several, which all begin with its value. */
  | {
      readonly kind: 'split';
      readonly old: string;
      readonly new: readonly string[];
      /** What the one was called, where that is not what the first of the several is. */
      readonly was?: Pick<SettingEntry, 'label' | 'meaning'>;
      readonly why: string;
    }
  /** One choice stood for several settings at once. */
  | {
      readonly kind: 'unfold';
      readonly entry: SettingEntry;
      readonly map: Readonly<Record<string, Readonly<Record<string, SettingValue>>>>;
      readonly why: string;
    }
  /** Gone in the newer version. */
  | {
      readonly kind: 'dropped';
      readonly entry: SettingEntry;
      /** Key that it stood behind, where that was not at the end. */
      readonly behind?: string;
      readonly why: string;
    }
  /** New in the newer version: settings it has, by key. */
  | { readonly kind: 'added'; readonly keys: readonly string[]; readonly why: string }
  /** New in the newer version, where its catalogue is made from the older one's. */
  | { readonly kind: 'introduced'; readonly entry: SettingEntry; readonly why: string }
  /** The same setting with another default. */
  | {
      readonly kind: 'redefault';
      readonly key: string;
      readonly was: SettingValue;
      readonly now: SettingValue;
      readonly why: string;
    };

/** How the other version keeps a converted number. */
export interface Kept {
  readonly unit: UnitId;
  readonly step: number;
  readonly integer?: boolean;
}

export interface MigrationStep {
  readonly from: string;
  readonly to: string;
  readonly rules: readonly MigrationRule[];
}

const matchers = new Map<string, RegExp>();

/** What stands for each `{}` when a key fits a pattern; null when it does not. */
export function slotsOf(pattern: string, key: string): readonly string[] | null {
  let matcher = matchers.get(pattern);
  if (!matcher) {
    const escaped = pattern.split('{}').map((p) => p.replace(/[.\\]/g, '\\$&'));
    matcher = new RegExp(`^${escaped.join('([^.]+)')}$`);
    matchers.set(pattern, matcher);
  }
  return matcher.exec(key)?.slice(1) ?? null;
}

/** A pattern with its `{}` filled in. */
export function filled(pattern: string, slots: readonly string[]): string {
  let i = 0;
  return pattern.replace(/\{\}/g, () => slots[i++] ?? '{}');
}
