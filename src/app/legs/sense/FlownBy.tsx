import { useMemo, useState } from 'react';
import { type FlownMoment, momentsOfLog, momentsOfTrack } from '#core/calibration/fromFlight.ts';
import { readFlightLog } from '#core/formats/flightLog.ts';
import { useApp } from '../../store/store.ts';
import { FileWords } from '../../ui/FileInput.tsx';

const MOST_BYTES = 16_000_000;

export interface Flown {
  readonly moments: readonly FlownMoment[];
  /** How it is called in a sentence. */
  readonly name: string;
}

/** A flight to learn from: a board's log that was opened, or the last rehearsed one. */
export function useFlown() {
  const result = useApp((s) => s.rehearsal.result);
  const [log, setLog] = useState<Flown | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const rehearsed = useMemo(
    () =>
      result && result.track.length > 3
        ? { moments: momentsOfTrack(result.track), name: 'The rehearsed flight' }
        : null,
    [result],
  );
  const openLog = async (file: File) => {
    if (file.size > MOST_BYTES) {
      setSaid(
        `${file.name} has more than ${MOST_BYTES / 1e6} MB, which no flight log has. It was not opened.`,
      );
      return;
    }
    const read = readFlightLog(new Uint8Array(await file.arrayBuffer()));
    const moments = read && momentsOfLog(read);
    if (!moments) {
      setSaid(
        read
          ? `${file.name} is a flight log without attitude, speed and height. Nothing was taken from it.`
          : `${file.name} is no flight log. Nothing was taken from it.`,
      );
      return;
    }
    setSaid(null);
    setLog({ moments, name: `Flight ${read.flight} of ${file.name}` });
  };
  return { flown: log ?? rehearsed, isLog: log !== null, said, openLog };
}

/** Asks for a flight log. */
export function OpenLog({
  onFile,
  said,
}: {
  readonly onFile: (f: File) => void;
  readonly said: string | null;
}) {
  return (
    <>
      <FileWords label="Flight log" accept=".log,.bin,application/octet-stream" onFile={onFile}>
        Open a flight log
      </FileWords>
      {said && (
        <p className="w-full text-amber" role="alert">
          {said}
        </p>
      )}
    </>
  );
}
