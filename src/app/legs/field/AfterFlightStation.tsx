import { useEffect, useState } from 'react';
import { EMPTY_BOOK } from '#core/field/fieldBook.ts';
import { formatClock, formatQuantity } from '#core/units/units.ts';
import { FLOWN_FILES } from '../../files.ts';
import { flightReader, takeFile } from '../../flights/index.ts';
import { logId } from '../../flights/LogShelf.ts';
import { useApp } from '../../store/store.ts';
import { FileWords } from '../../ui/FileInput.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { FlightStamps, type Stamp } from './after/FlightStamps.tsx';
import { OneFlown } from './after/OneFlown.tsx';

/** Flights read from the board and looked at. */
export default function AfterFlightStation() {
  const craft = useApp((s) => s.crafts.id);
  const link = useApp((s) => s.board.link);
  const serial = useApp((s) => s.board.identity?.serial);
  const { kept, onBoard, reading, craft: listed } = useApp((s) => s.flights);
  const book = useApp((s) => s.craft.file!.field) ?? EMPTY_BOOK;
  const units = useApp((s) => s.ui.units);
  const [chosen, setChosen] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    void flightReader.listKept();
  }, [craft]);
  const look = () => void flightReader.listBoard().then((why) => setFault(why));
  useEffect(() => {
    if (link === 'ready') look();
  }, [link, serial]);
  const own = listed === craft ? kept : [];
  const there = link === 'ready' && onBoard && onBoard.serial === serial ? onBoard.flights : [];
  const told = (s: string, flight: number, startedS: number) =>
    book.flown.find((f) => f.serial === s && f.flight === flight && f.startedS === startedS) ?? null;
  const stamps: Stamp[] = [
    ...there.toReversed().map((b) => {
      const key = logId(craft ?? '', serial ?? '', b.flight, b.startedS);
      return {
        key,
        board: b,
        kept: own.find((k) => k.id === key) ?? null,
        told: told(serial ?? '', b.flight, b.startedS),
      };
    }),
    ...own
      .filter((k) => !there.some((b) => logId(craft ?? '', serial ?? '', b.flight, b.startedS) === k.id))
      .map((k) => ({ key: k.id, board: null, kept: k, told: told(k.serial, k.flight, k.startedS) })),
  ];
  const open = async (file: File) => {
    setFault(null);
    try {
      const took = await takeFile(file);
      if ('refused' in took) setFault(took.refused);
      else setChosen(took.id);
    } catch (error) {
      setFault((error as Error).message);
    }
  };
  const shown = own.find((k) => k.id === chosen) ?? own.find((k) => k.upTo > 0) ?? null;
  return (
    <>
      <Lead />
      {stamps.length > 0 && (
        <FlightStamps
          stamps={stamps}
          chosen={shown?.id ?? null}
          reading={reading}
          onChoose={setChosen}
          onRead={(flight) => {
            setFault(null);
            setChosen(logId(craft ?? '', serial ?? '', flight.flight, flight.startedS));
            void flightReader.read(flight);
          }}
          onStop={() => flightReader.stop()}
        />
      )}
      <p className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1 text-[13px]">
        {link === 'ready' ? (
          <>
            {there.length === 0 && <span className="text-soft">There is no flight on the board.</span>}
            <TextButton onClick={look}>Look on the board again</TextButton>
          </>
        ) : (
          <span className="text-soft">
            {own.length === 0
              ? 'Plug the board in after the flight: its flights stand here then. Or open one from a file.'
              : 'Flights on the board stand here once it is plugged in.'}
          </span>
        )}
        {book.flown.length > 0 && (
          <span className="order-last ml-auto text-soft">
            in the book {book.flown.length} {book.flown.length === 1 ? 'flight' : 'flights'},{' '}
            <span className="num">{formatClock(book.flown.reduce((sum, f) => sum + f.seconds, 0))}</span> in
            the air,{' '}
            <span className="num">
              {formatQuantity(
                book.flown.reduce((sum, f) => sum + f.wayM, 0),
                'm',
                units,
                0,
              )}
            </span>{' '}
            flown
          </span>
        )}
        <FileWords label="Flight log or track" accept={FLOWN_FILES} onFile={(f) => void open(f)}>
          Open a flight or a track
        </FileWords>
      </p>
      {reading && reading.says !== '' && (
        <Notice tone={reading.state === 'away' ? 'amber' : 'red'}>{reading.says}</Notice>
      )}
      {fault && <Notice>{fault}</Notice>}
      {shown && (
        <OneFlown
          key={shown.id}
          log={shown}
          others={own.filter((k) => k.id !== shown.id && k.upTo > 0)}
          onFault={setFault}
        />
      )}
    </>
  );
}
