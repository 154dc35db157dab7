import { useEffect, useState } from 'react';
import { compareVersions, offersFor } from '#core/formats/releases.ts';
import type { SeenAs } from '#core/proofs/seen.ts';
import { CONTROLLER_PRODUCT } from '../../flashing/ControllerFirmware.ts';
import { controllerFirmware, imageInHand } from '../../flashing/index.ts';
import { useApp } from '../../store/store.ts';
import { Bar } from '../../ui/Bar.tsx';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Select } from '../../ui/Select.tsx';

interface Props {
  /** Those that answered or wait in their loader when they were read last. */
  readonly read: readonly SeenAs<'controller'>[];
  readonly nameOf: (output: number) => string;
  /** The board is there and has leave to speak to them. */
  readonly allowed: boolean;
}

/** Firmware of the motor controllers, brought to another version through the board. */
export function ControllerUpdate({ read, nameOf, allowed }: Props) {
  const { catalogue, controllers: run, fault } = useApp((s) => s.firmware);
  const can = useApp((s) => s.board.identity?.can.requests.includes('loader-begin')) === true;
  const [wanted, setWanted] = useState('');
  useEffect(() => {
    void imageInHand.loadReleases();
  }, []);
  if (read.length === 0) return null;
  const offers = catalogue ? offersFor(catalogue, CONTROLLER_PRODUCT, '') : [];
  const version = wanted || offers.find((o) => o.release.channel === 'stable')?.release.version;
  const notes = offers.find((o) => o.release.version === version)?.release.notes ?? [];
  const others = read.filter((c) => c.version !== version).map((c) => c.output);
  const writing = run.kind === 'writing';
  const older =
    version !== undefined && read.some((c) => c.version !== '' && compareVersions(c.version, version) > 0);
  return (
    <section
      className="mt-3 max-w-[760px] border-line border-t pt-3"
      aria-label="Firmware of the controllers"
    >
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">Their firmware</h2>
        <span className="flex-1 text-soft">
          {read
            .map((c) => `${nameOf(c.output)} ${c.version === '' ? 'none that is whole' : c.version}`)
            .join(', ')}
        </span>
        {version !== undefined && (
          <Select
            aria-label="Version for the controllers"
            className="text-[13px]"
            disabled={writing}
            value={version}
            onChange={(e) => setWanted(e.target.value)}
          >
            {offers.map((o) => (
              <option key={o.release.version} value={o.release.version}>
                {o.release.product} {o.release.version}
              </option>
            ))}
          </Select>
        )}
        <Button
          disabled={!can || !allowed || writing || version === undefined || others.length === 0}
          onClick={() => void controllerFirmware.bring(others, version)}
        >
          {others.length > 1 ? `Bring ${others.length} to this version` : 'Bring it to this version'}
        </Button>
      </div>
      <p className="text-[13px] text-soft">
        {!can
          ? 'This board’s firmware passes no firmware on to them: that came with Pfad 3.2.'
          : version === undefined
            ? (fault ?? 'Which firmware there is for them is being asked.')
            : others.length === 0
              ? 'All of them run it.'
              : `${notes.join(' ')} One after another, through the board; what stands in their memory stays. Each is checked to be of the right model, and by its own reading of its flash, before it starts.${older ? ' One of them runs a later one now.' : ''}`}
      </p>
      {writing && (
        <div className="mt-2" role="status">
          <Bar share={run.share} className="max-w-[360px]" />
          <p className="text-[13px]">
            {nameOf(run.output)}, {run.nth} of {run.of}:{' '}
            <span className="num">{Math.round(100 * run.share)} %</span>. Leave battery and cable in.
          </p>
        </div>
      )}
      {(run.kind === 'interrupted' || run.kind === 'failed') && (
        <Notice
          tone={run.kind === 'failed' ? 'red' : 'amber'}
          action={
            <Button
              disabled={!allowed}
              onClick={() => void controllerFirmware.bring(run.left, run.version || version)}
            >
              {run.kind === 'interrupted' ? 'Go on' : 'Try again'}
            </Button>
          }
        >
          The {nameOf(run.output)} has no whole firmware yet, or still its old one. {run.why}{' '}
          {run.kind === 'interrupted' &&
            'What was written stays: with cable and battery in and the propellers confirmed off, it goes on there.'}
        </Notice>
      )}
      {run.kind === 'done' && (
        <p className="mt-1 text-forest" role="status">
          {run.count === 1 ? 'It runs' : `All ${run.count} run`} {CONTROLLER_PRODUCT} {run.version}, verified
          by
          {run.count === 1 ? ' its' : ' their'} own reading.
        </p>
      )}
    </section>
  );
}
