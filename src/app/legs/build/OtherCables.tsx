import { useState } from 'react';
import type { Baud } from '../../board/ports/serialPort.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Select } from '../../ui/Select.tsx';

const cables = () => import('../../board/cables.ts');
const BAUDS: readonly Baud[] = [115_200, 57_600, 230_400, 460_800, 921_600];

/** A board of one's own: on USB or a serial adapter, or in a process of this machine. */
export function OtherCables() {
  const reading = useApp((s) => s.board.link === 'reading');
  const [baud, setBaud] = useState<Baud>(115_200);
  const [address, setAddress] = useState('ws://127.0.0.1:4311/');
  const [fault, setFault] = useState<string | null>(null);
  const hasSerial = 'serial' in navigator;
  const join = (work: Promise<string | null>) => void work.then(setFault);
  return (
    <section className="mt-4 max-w-[660px]" aria-label="Another board">
      <p className="label">Or a board that is not on the bench</p>
      <div className="mt-1.5 grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 gap-y-2">
        <p className="text-soft">
          {hasSerial ? (
            <>
              On USB, or on a serial adapter at{' '}
              <Select
                look="small"
                aria-label="Baud"
                value={baud}
                className="num"
                onChange={(e) => setBaud(Number(e.target.value) as Baud)}
              >
                {BAUDS.map((b) => (
                  <option key={b} value={b}>
                    {b}
                  </option>
                ))}
              </Select>{' '}
              baud. The browser asks which port; it remembers the answer.
            </>
          ) : (
            'On USB: this browser gives pages no serial ports.'
          )}
        </p>
        <span className="flex gap-1">
          <Button
            disabled={!hasSerial || reading}
            onClick={() => join(cables().then((c) => c.connectSerial(baud, false)))}
          >
            Connect by USB
          </Button>
          {hasSerial && (
            <Button
              kind="flat"
              disabled={reading}
              onClick={() => join(cables().then((c) => c.connectSerial(baud, true)))}
            >
              another port…
            </Button>
          )}
        </span>
        <form
          className="contents"
          onSubmit={(e) => {
            e.preventDefault();
            join(cables().then((c) => c.connectSocket(address)));
          }}
        >
          <label className="flex min-w-0 flex-wrap items-baseline gap-x-2 text-soft">
            In a process of this machine, at
            <input
              aria-label="Address of the board"
              value={address}
              maxLength={200}
              spellCheck={false}
              className="code min-w-[210px] flex-1 rounded-[3px] border-contour border-b border-dotted bg-transparent px-0.5 text-ink hover:bg-lake-wash focus:bg-lake-wash"
              onChange={(e) => setAddress(e.target.value)}
            />
          </label>
          <span>
            <Button type="submit" disabled={reading}>
              Connect to it
            </Button>
          </span>
        </form>
      </div>
      {fault && <Notice>{fault}</Notice>}
    </section>
  );
}
