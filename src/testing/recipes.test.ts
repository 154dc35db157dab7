import { execFileSync } from 'node:child_process';
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';

/**
 * The recipes of docs/architecture.md, followed in a copy of the tree: a setting, a finding, a station, a proof, a lesson and a message are
 * added each in the places that its recipe names and nowhere else, and what there is takes them up.
 */

let copy = '';
const at = (file: string) => join(copy, file);
const add = (file: string, before: string, text: string) => {
  const old = readFileSync(at(file), 'utf8');
  expect(old.split(before), `${file} has "${before}" once`).toHaveLength(2);
  writeFileSync(at(file), old.replace(before, `${text}${before}`));
};
const run = (...args: string[]) => {
  try {
    return execFileSync(process.execPath, args, { cwd: copy, encoding: 'utf8', stdio: 'pipe' });
  } catch (error) {
    const { stdout, stderr } = error as { stdout: string; stderr: string };
    throw new Error(`${args.join(' ')} failed:\n${stdout}\n${stderr}`);
  }
};
const bin = (name: string) => resolve('node_modules', name);

beforeAll(() => {
  copy = mkdtempSync(join(tmpdir(), 'wanderweg-recipes-'));
  for (const part of ['src', 'demo', 'docs', 'tools', 'package.json', 'tsconfig.json', 'vite.config.ts'])
    cpSync(part, at(part), {
      recursive: true,
      filter: (from) => !/recipes\.test\.ts$|screenshots/.test(from),
    });
  symlinkSync(resolve('node_modules'), at('node_modules'));
});
afterAll(() => rmSync(copy, { recursive: true, force: true }));

describe('the recipes', () => {
  it('add a setting, a finding, a station, a proof, a lesson and a message, one place each', () => {
    // A setting: the table of the module that uses it.
    add(
      'src/firmware/catalogue/navigation.ts',
      "  book.number('nav.sink'",
      "  book.number('toy.size', 'Toy', 'm', [1, 9, 3, 1], 'A toy.');\n",
    );
    // A finding: its rule, in the list of its file; its example.
    add(
      'src/core/findings/rules/lostLink.ts',
      'export const lostLinkRules',
      `const toy: Rule = ({ values }) =>
  num(values, 'toy.size') < 9
    ? []
    : [
        finding('toy', 'caution', 'toy', 'The toy is as large as can be', 'It would be in the way.', ['toy.size'], {
          label: 'Make it smaller',
          edits: { 'toy.size': 3 },
        }),
      ];

`,
    );
    add('src/core/findings/rules/lostLink.ts', 'lostLinkAction, lostLinkDelay', 'toy, ');
    add(
      'src/testing/findingExamples.ts',
      "  ['help comes late'",
      "  ['the toy is large', { 'toy.size': 9 }, 'toy'],\n",
    );
    // A station: its module and its view.
    writeFileSync(
      at('src/app/legs/return/toy.station.ts'),
      `import { fromProof, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    toy: true;
  }
}

const station: Station = {
  id: 'toy',
  place: 90,
  name: 'A toy',
  about: 'Nothing is done here.',
  settings: /^toy\\.size$/,
  requires: ['toy.size'],
  progress: (p) => fromProof(togetherOf(['toyed'], p)),
  view: () => import('./ToyStation.tsx'),
};
export default station;
`,
    );
    writeFileSync(
      at('src/app/legs/return/ToyStation.tsx'),
      `import { SettingField } from '../../ui/SettingField.tsx';
import { Lead } from '../Lead.tsx';

export default function ToyStation() {
  return (
    <>
      <Lead />
      <SettingField name="toy.size" />
    </>
  );
}
`,
    );
    // A proof: what was seen, and everything it rests on.
    add(
      'src/core/proofs/seen.ts',
      "  z.object({\n    kind: z.literal('winds'),",
      "  z.object({ kind: z.literal('toyed'), size: z.number() }),\n",
    );
    add(
      'src/core/proofs/proofs.ts',
      "  flight: { id: () => 'flight'",
      "  toyed: { id: () => 'toyed', rests: (_, w) => ({ settings: settingOf(w.values, 'toy.size') }) },\n",
    );
    // Something that the board does by itself: its class, and what is done with what it found.
    add(
      'src/firmware/procedures.ts',
      "  'learn-stick': (controller) =>",
      "  toy: () => ({ step: () => ({ state: 'done', progress: 1, says: 'Toyed.', result: { size: 7 } }) }),\n",
    );
    writeFileSync(
      at('src/app/lessons/toy.ts'),
      `import type { SessionParts } from '../board/BoardSession.ts';
import type { Lesson } from '../board/ProcedureRunner.ts';
import { staged } from '../store/settingsSlice.ts';

export const toyLearnt =
  (store: SessionParts['store']): Lesson =>
  (_, found) => {
    store.dispatch(staged({ 'toy.size': found.size! }));
    return 'It is learnt.';
  };
`,
    );
    add(
      'src/app/board/procedures.ts',
      'import { stickLearnt }',
      "import { toyLearnt } from '../lessons/toy.ts';\n",
    );
    add('src/app/board/procedures.ts', "'learn-stick': stickLearnt(store)", 'toy: toyLearnt(store), ');
    // A message: its request and answer, and the board's side.
    add(
      'src/core/wire/messages.ts',
      "  z.object({ t: z.literal('restart'), id, act }),",
      "  z.object({ t: z.literal('toy'), id }),\n",
    );
    add('src/core/wire/messages.ts', '  restart: z.object({}),', '  toy: z.object({ toy: z.number() }),\n');
    add(
      'src/firmware/boardLink.ts',
      "      case 'restart':",
      "      case 'toy':\n        return { toy: Number(pfad.values['toy.size']) };\n",
    );
    writeFileSync(
      at('src/link/toy.test.ts'),
      `import { expect, it } from 'vitest';
import { legs } from '../app/legs/legs.ts';
import { makeProof, stateOf } from '#core/proofs/proofs.ts';
import { ProcedureRunner } from '../app/board/ProcedureRunner.ts';
import { toyLearnt } from '../app/lessons/toy.ts';
import { makeStore } from '../app/store/store.ts';
import { benchRig } from '../testing/benchRig.ts';
import { proofWorld } from '../testing/proofWorld.ts';

it('is answered', async () => {
  const rig = benchRig();
  expect(await rig.client.request('toy', {})).toEqual({ toy: 3 });
  rig.stop();
});

it('is learnt', async () => {
  const rig = benchRig();
  const store = makeStore();
  const clock = { pause: (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms)) };
  const lessons = { toy: toyLearnt(store) };
  await new ProcedureRunner({ store, clock, link: () => rig.client, lessons }).begin('toy', {});
  expect(store.getState().procedure.newest).toMatchObject({ state: 'done', says: 'It is learnt.' });
  expect(store.getState().settings.edits).toEqual({ 'toy.size': 7 });
  rig.stop();
});

it('holds until what it rests on changes', () => {
  const world = proofWorld('turnstone');
  const proof = makeProof({ kind: 'toyed', size: 3 }, world, '2026-06-01T09:00:00Z');
  const then = (change: object) => stateOf(proof, { ...world, values: { ...world.values, ...change } });
  expect([then({}), then({ 'return.height': 99 }), then({ 'toy.size': 4 })]).toEqual(['proven', 'proven', 'stale']);
});

it('is on the trail', () => {
  expect(legs.find((l) => l.id === 'return')!.stations.at(-1)!.name).toBe('A toy');
});
`,
    );
    // The compiler knows a setting once the types of the settings are made anew.
    run(bin('tsx/dist/cli.mjs'), 'tools/demo.ts');
    run(bin('typescript/bin/tsc'), '--noEmit');
    expect(readFileSync(at('docs/findings.md'), 'utf8')).toContain('The toy is as large as can be');
    const said = run(
      bin('vitest/vitest.mjs'),
      'run',
      'src/link/toy.test.ts',
      'src/app/legs/legs.test.ts',
      'src/core/findings',
    );
    expect(said).toMatch(/Test Files\s+.*3 passed/);
  }, 180_000);
});
