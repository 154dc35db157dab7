import * as z from 'zod';
import { kolkEntries } from '#core/controllers/kolk.ts';
import { parsed } from '#core/parsed.ts';
import { makeProof } from '#core/proofs/proofs.ts';
import type { SeenAs } from '#core/proofs/seen.ts';
import type { SettingValue, Values } from '#core/settings/catalogue.ts';
import type { SessionParts } from '../board/BoardSession.ts';
import type { Lesson } from '../board/ProcedureRunner.ts';
import { proofTaken } from '../store/craftSlice.ts';
import { selectProofWorld } from '../store/selectors.ts';

type Store = SessionParts['store'];
type Told = Omit<SeenAs<'controller'>, 'kind'>;

const stateSchema = z.enum(['answers', 'silent', 'pulses', 'loader']);
const valueSchema = z.union([z.number(), z.boolean(), z.string().max(20)]);
const known = new Set(kolkEntries.map((e) => e.key));

function keep(store: Store, told: Told): void {
  const world = selectProofWorld(store.getState());
  if (!world) return;
  const proof = makeProof({ kind: 'controller', ...told }, world, new Date().toISOString());
  store.dispatch(proofTaken(proof));
}

/** Of what a controller says only that which is known here, each a value. */
function valuesOf(found: Values): Told['values'] {
  return Object.fromEntries(
    Object.entries(found).flatMap(([key, v]) => {
      const read = parsed(valueSchema, v);
      return known.has(key) && read.success ? [[key, read.data]] : [];
    }),
  );
}

/** Every controller was asked: what each holds is kept. */
export const controllersRead =
  (store: Store): Lesson =>
  (_asked, found) => {
    const outputs = Object.keys(found).flatMap((k) => {
      const n = /^(\d{1,2})\.state$/.exec(k)?.[1];
      return n ? [Number(n)] : [];
    });
    let answers = 0;
    for (const output of outputs) {
      const state = parsed(stateSchema, found[`${output}.state`]);
      if (!state.success) continue;
      const own = Object.fromEntries(
        Object.entries(found).flatMap(([k, v]) =>
          k.startsWith(`${output}.`) ? [[k.slice(`${output}.`.length), v]] : [],
        ),
      );
      if (state.data === 'answers') answers++;
      keep(store, {
        output,
        state: state.data,
        product: String(own.product ?? '').slice(0, 30),
        version: String(own.version ?? '').slice(0, 20),
        values: valuesOf(own),
      });
    }
    if (outputs.length === 0) return 'No motor controller hangs on any output.';
    return answers === outputs.length
      ? `${answers === 1 ? 'The one' : `All ${answers}`} answered.`
      : answers === 0
        ? 'None answered: they are driven by pulses, which carry no questions, or understand nothing else. In Wiring a timer can send DShot instead.'
        : `${answers} of ${outputs.length} answered.`;
  };

/** A controller was told something: what stands there now was read back, and is said beside what was asked. */
export const controllerWritten =
  (store: Store): Lesson =>
  (asked, found) => {
    const output = Number(asked.output);
    const before = store.getState().craft.proofs.find((p) => p.id === `controller.${output}`)?.seen;
    const values = valuesOf(found);
    const { product = '', version = '' } = before?.kind === 'controller' ? before : {};
    keep(store, { output, state: 'answers', product, version, values });
    const refused = Object.entries(asked).filter(([k, v]) => k !== 'output' && !same(values[k], v));
    const names = refused.map(([k]) => kolkEntries.find((e) => e.key === k)?.label ?? k);
    return refused.length === 0
      ? `The controller on output ${output} read back what it was told.`
      : `The controller on output ${output} kept another value of ${names.join(', ')} than it was told.`;
  };

/** Both ends were sent; whether they were taken is heard, not told. */
export const endsShown: Lesson = () => 'Both ends were sent.';

const same = (a: SettingValue | undefined, b: SettingValue) =>
  typeof a === 'number' && typeof b === 'number' ? Math.abs(a - b) < 1e-6 : a === b;
