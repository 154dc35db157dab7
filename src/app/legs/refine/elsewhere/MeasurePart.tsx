import type { MeasuredGain, MeasuredGains } from '#core/analysis/gainsFromLog.ts';
import { gainLawOf, gainTimes } from '#core/control/gainLaw.ts';
import type { Axis } from '#core/mixer/authority.ts';
import type { Catalogue, Values } from '#core/settings/catalogue.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { formatClock, formatNumber } from '#core/units/units.ts';
import { staged } from '../../../store/settingsSlice.ts';
import { useAppDispatch } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { FileWords } from '../../../ui/FileInput.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { workshop } from '../../../workers/index.ts';
import { type Doing, useWorked } from '../../useWorked.ts';
import { NameColumns, RATES, TIME } from '../NameColumns.tsx';

interface Measured {
  readonly gains: MeasuredGains;
  readonly seconds: number;
  readonly rateHz: number;
  readonly name: string;
}

const columns = [
  TIME,
  { id: 'asked', name: 'Rate asked for', units: RATES },
  { id: 'came', name: 'Rate that came', units: RATES },
  {
    id: 'given',
    name: 'Command given',
    units: [
      ['share', 'of full'],
      ['pct', '%'],
      ['us', 'µs from its middle'],
    ] as const,
  },
];

const parts = [
  ['p', 'P'],
  ['i', 'I'],
  ['d', 'D'],
  ['forward', 'Feed-forward'],
] as const;

/** Less sure than this a gain is not taken, share of it. */
const SURE = 0.5;

/** Gains measured from a log of a loop, whoever flew it and in whatever scale. */
export function MeasurePart({
  axis,
  values,
  catalogue,
  rotors,
}: {
  readonly axis: Axis;
  readonly values: Values;
  readonly catalogue: Catalogue;
  readonly rotors: boolean;
}) {
  const dispatch = useAppDispatch();
  const { doing, work } = useWorked<Measured, null>(null);
  const open = (file: File, named: ReadonlyMap<string, string> = new Map()) =>
    void work(
      'reading',
      null,
      async (): Promise<Doing<Measured>> => {
        const opened = await workshop().openGains(file, named);
        if (opened.kind === 'columns') return { ...opened, file };
        if (opened.kind === 'refused') return { kind: 'fault', why: opened.why };
        const { gains, seconds, rateHz } = opened;
        return { kind: 'seen', seen: { gains, seconds, rateHz, name: file.name } };
      },
      `${file.name} could not be read`,
    );
  const seen = doing.kind === 'seen' ? doing.seen : null;
  // What was flown at cruise is written for the reference speed.
  const law = gainLawOf(values, rotors);
  const at = law.by === 'speed' ? settingsOf(values).number('nav.speed') : law.reference;
  const times = gainTimes(law, rotors, { gain: 1, forward: 1, at, supplyV: 0 });
  const ours = (part: (typeof parts)[number][0], g: MeasuredGain) =>
    g.value / (part === 'forward' ? times.forward : times.gain);
  const sure = seen ? parts.filter(([part]) => isSure(seen.gains[part])) : [];
  const edits = () =>
    Object.fromEntries(
      sure.flatMap(([part]) => {
        const key = `rate.${axis}.${part}`;
        const entry = catalogue.entry(key);
        if (!entry || !seen) return [];
        const value = Number(ours(part, seen.gains[part]).toPrecision(4));
        return [[key, Math.min(entry.max ?? value, Math.max(entry.min ?? value, value))] as const];
      }),
    );
  return (
    <section aria-label="Measured from a log" className="mt-4 border-line border-t pt-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="font-semibold">Or measured from a log</h2>
        <FileWords
          label="Log of a loop"
          accept=".csv,.tsv,.txt"
          disabled={doing.kind === 'reading'}
          onFile={(file) => open(file)}
        >
          {doing.kind === 'reading' ? 'Reading …' : 'Open a table'}
        </FileWords>
      </div>
      <p className="text-soft">
        A table of what the loop was asked, what came and what it gave tells its gains, whatever scale they
        were written in.
      </p>
      {doing.kind === 'columns' && (
        <NameColumns
          file={doing.file.name}
          names={doing.names}
          wanted={columns}
          onNamed={(named) => open(doing.file, named)}
        />
      )}
      {doing.kind === 'fault' && <Notice className="mt-2">{doing.why}</Notice>}
      {seen && (
        <>
          <p role="status" className="mt-2">
            By {formatClock(seen.seconds)} of {seen.name} at {formatNumber(seen.rateHz, 0)} samples a second:{' '}
            {formatNumber(100 * seen.gains.explained, 0)} % of what was given is explained
            {seen.gains.lateS > 0 &&
              `, by a gyro that reached the loop ${formatNumber(1000 * seen.gains.lateS, 0)} ms late`}
            .
          </p>
          <dl className="mt-1 flex flex-wrap gap-x-8 gap-y-2">
            {parts.map(([part, name]) => {
              const g = seen.gains[part];
              return (
                <div key={part}>
                  <dt className="text-soft">{name}</dt>
                  <dd className={`num ${isSure(g) ? '' : 'text-soft'}`}>
                    {isSure(g)
                      ? `${formatNumber(ours(part, g), 4)} ± ${formatNumber((2 * g.sure * ours(part, g)) / g.value, 4)}`
                      : 'not told from none'}
                  </dd>
                </div>
              );
            })}
          </dl>
          <Button className="mt-2" disabled={sure.length === 0} onClick={() => dispatch(staged(edits()))}>
            Take over what was measured
          </Button>
        </>
      )}
    </section>
  );
}

const isSure = (g: MeasuredGain): boolean => g.value > 0 && 2 * g.sure < SURE * g.value;
