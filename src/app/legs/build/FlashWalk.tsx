import { useState } from 'react';
import type { MigrationReport } from '#core/settings/migration/migrate.ts';
import { formatBytes, formatDuration } from '#core/units/units.ts';
import { flashing } from '../../flashing/index.ts';
import { when } from '../../history/words.ts';
import { type FlashRun, firmwareChanged } from '../../store/firmwareSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { CarryReport } from './CarryReport.tsx';

/** What has been done of the walk, what is being done, what comes. */
const steps = ['keep', 'enter', 'write', 'verify', 'start', 'listen'] as const;
type Step = (typeof steps)[number];
const stepWords: Readonly<Record<Step, string>> = {
  keep: 'Keep what is on it',
  enter: 'Into the loader',
  write: 'Erase and write',
  verify: 'Read back and compare',
  start: 'Start it',
  listen: 'Hear who answers',
};

function stepOf(run: FlashRun, inLoader: boolean): number {
  switch (run.kind) {
    case 'backing-up':
      return 0;
    case 'entering':
      return 1;
    case 'flashing':
      return run.doing === 'verifying' ? 3 : 2;
    case 'starting':
      return 4;
    case 'listening':
      return 5;
    case 'runs':
      return 6;
    case 'interrupted':
    case 'failed':
    case 'idle':
      return inLoader ? 2 : 0;
  }
}

/** From what is on the board to another firmware that runs on it. */
export function FlashWalk() {
  const board = useApp((s) => s.board);
  const { inHand, run, wipe } = useApp((s) => s.firmware);
  const kept = useApp((s) => s.history.snapshots.find((x) => x.serial === s.board.identity?.serial));
  const dispatch = useAppDispatch();
  const inLoader = board.link === 'loader';
  const at = stepOf(run, inLoader);
  const why = flashing.whyNotFlash();
  const waits = run.kind === 'idle' || run.kind === 'failed' || run.kind === 'runs';
  const half = inLoader && board.loader?.plan && !board.loader.verified ? board.loader : null;
  const goesOn = half !== null && half.plan?.crc === inHand?.info.crc;
  return (
    <section aria-label="The walk to another firmware">
      {inLoader && (
        <Notice tone="plain" className="max-w-[640px]">
          <b className="font-semibold">{board.identity?.board} is in its loader.</b>{' '}
          {half
            ? `Pfad ${half.plan!.version} is on it by ${Math.round((100 * half.written) / half.plan!.size)} %: ${goesOn ? 'writing goes on there.' : 'take that release again to go on, or another to begin anew.'}`
            : board.loader?.verified
              ? `A whole Pfad ${board.loader.plan!.version} is on it.`
              : 'There is no firmware on it yet.'}{' '}
          {kept
            ? `Its settings were kept ${when(kept.lastAt)}.`
            : board.loader?.verified
              ? 'Its settings were never kept here.'
              : 'It has no settings to give.'}
          {board.loader?.verified && waits && (
            <TextButton tone="forest" className="ml-2" onClick={() => void flashing.startFirmware()}>
              Start the firmware that is on it
            </TextButton>
          )}
        </Notice>
      )}
      <ol className="mt-3 flex flex-wrap gap-y-1" aria-label="Steps">
        {steps.map((s, i) => (
          <li
            key={s}
            aria-current={i === at && !waits ? 'step' : undefined}
            className={`flex items-center text-[13px] ${i < at ? 'text-forest' : i === at && !waits ? 'font-semibold text-lake' : 'text-soft'}`}
          >
            <i
              className={`mr-1.5 inline-block size-2 rotate-45 border ${i < at ? 'border-forest bg-forest' : i === at && !waits ? 'border-lake bg-lake' : 'border-contour'}`}
            />
            {stepWords[s]}
            {i < steps.length - 1 && <span className="mx-2 inline-block h-px w-5 bg-line" />}
          </li>
        ))}
      </ol>
      <Doing run={run} />
      {waits && inHand && run.kind !== 'runs' && (
        <div className="mt-3 flex max-w-[680px] flex-wrap items-center gap-x-5 gap-y-2">
          <fieldset className="flex gap-4" aria-label="Settings on the board">
            {[false, true].map((w) => (
              <Check
                key={String(w)}
                kind="radio"
                name="wipe"
                checked={wipe === w}
                disabled={goesOn}
                onChange={() => dispatch(firmwareChanged({ wipe: w }))}
              >
                {w ? 'erase the settings too' : 'leave the settings on it'}
              </Check>
            ))}
          </fieldset>
          <Button
            kind="go"
            disabled={why !== null}
            title={why ?? undefined}
            onClick={() => void flashing.flash()}
          >
            {goesOn ? 'Go on writing' : `Put ${inHand.name} on the board`}
          </Button>
          <Preview
            of={`${board.identity?.version} ${inHand.info.version}`}
            shown={board.link === 'ready' && board.identity?.version !== inHand.info.version}
          />
          {why && <p className="w-full text-amber">{why}</p>}
        </div>
      )}
      {waits && !inHand && run.kind !== 'runs' && (
        <p className="mt-3 text-soft">Take a release, or an image from a file, to begin.</p>
      )}
    </section>
  );
}

/** What will become of the settings, to be read before anything is erased. */
function Preview({ of, shown }: { readonly of: string; readonly shown: boolean }) {
  const [report, setReport] = useState<MigrationReport | 'none' | null>(null);
  const [chosen, setChosen] = useState<Readonly<Record<string, number>>>({});
  const look = async (choice: Readonly<Record<string, number>>) => {
    setChosen(choice);
    setReport((await flashing.preview(choice)) ?? 'none');
  };
  if (!shown) return null;
  return (
    <>
      <TextButton key={of} onClick={() => void look(chosen)}>
        See what becomes of its settings
      </TextButton>
      {report === 'none' && (
        <p className="w-full text-amber">
          How settings are carried between these two versions is not known here: they are kept, and can be
          looked up.
        </p>
      )}
      {report !== null && report !== 'none' && (
        <CarryReport
          report={report}
          onChoose={(id, option) => void look({ ...chosen, [id]: option })}
          onClose={() => setReport(null)}
        />
      )}
    </>
  );
}

/** What is happening now, with numbers. */
function Doing({ run }: { readonly run: FlashRun }) {
  switch (run.kind) {
    case 'idle':
      return null;
    case 'flashing': {
      const share = run.done / run.of;
      const left = run.rate ? (run.of - run.done) / run.rate : null;
      const words = { erasing: 'Erasing', writing: 'Writing', verifying: 'Reading back and comparing' }[
        run.doing
      ];
      return (
        <div className="mt-3 max-w-[640px]" role="status">
          <MemoryBand doing={run.doing} share={share} />
          <p className="mt-1 text-lake">
            {words}: <span className="num">{formatBytes(run.done)}</span> of{' '}
            <span className="num">{formatBytes(run.of)}</span>
            {run.rate !== null && (
              <>
                , <span className="num">{formatBytes(run.rate)}</span> a second,{' '}
                <span className="num">{formatDuration(left!)}</span> left
              </>
            )}
          </p>
          <p className="text-[13px] text-soft">
            The cable or this page may go at any time: the loader keeps what is written and goes on from
            there.
          </p>
        </div>
      );
    }
    case 'interrupted':
      return (
        <Notice tone="amber" className="mt-3 max-w-[640px]">
          {run.why} What is written stays on the board. Put the cable back: writing goes on by itself.
        </Notice>
      );
    case 'failed':
      return <Notice className="mt-3 max-w-[640px]">{run.why}</Notice>;
    case 'runs':
      return (
        <p role="status" className="mt-3 font-semibold text-forest">
          The new firmware runs, read back as it was sent.
        </p>
      );
    default: {
      const words = {
        'backing-up': 'Keeping what is on the board',
        entering: 'Waiting for the board, which goes into its loader',
        starting: 'Waiting for the board, which starts its new firmware',
        listening: 'Hearing who answers on its buses and ports',
      }[run.kind];
      return (
        <p role="status" className="mt-3 text-lake">
          {words}
        </p>
      );
    }
  }
}

const CELLS = 64;

/** The board's memory from its first byte to its last: erased cells are hollow, written ones full. */
function MemoryBand({ doing, share }: { readonly doing: string; readonly share: number }) {
  const full = Math.round(share * CELLS);
  return (
    <svg viewBox={`0 0 ${CELLS * 10} 16`} className="w-full" aria-hidden="true">
      {Array.from({ length: CELLS }, (_, i) => {
        // Erasing begins at the end of the memory.
        const on = doing === 'erasing' ? i < CELLS - full : i < full;
        return (
          <rect
            key={i}
            x={i * 10 + 1}
            y={1}
            width={7.5}
            height={14}
            rx={1.5}
            fill={on ? (doing === 'erasing' ? 'var(--contour)' : 'var(--lake)') : 'var(--sheet)'}
            stroke={on && doing !== 'erasing' ? 'var(--lake)' : 'var(--contour)'}
          />
        );
      })}
    </svg>
  );
}
