import { useState } from 'react';
import { compareSettings } from '#core/settings/compare.ts';
import { flightReader } from '../../../flights/index.ts';
import { history } from '../../../history/index.ts';
import { selectCatalogue, selectValues } from '../../../store/selectors.ts';
import { staged } from '../../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { Notice } from '../../../ui/Notice.tsx';

/** A port that carries the link cannot be given away, so it is not reset either. */
const STAYS = /^port\.\d+\.use$/;

/** Back to the firmware's defaults, and a clean store on the board; what was there is kept first. */
export function AnewPart() {
  const dispatch = useAppDispatch();
  const identity = useApp((s) => s.board.identity);
  const ready = useApp((s) => s.board.link === 'ready');
  const values = useApp(selectValues);
  const base = useApp((s) => s.settings.base);
  const catalogue = useApp(selectCatalogue);
  const [said, setSaid] = useState<{ readonly tone: 'plain' | 'red'; readonly text: string } | null>(null);
  const unlike = compareSettings(values, { ...values, ...catalogue.defaults() }, catalogue).filter(
    (d) => !STAYS.test(d.key),
  );
  const reset = async () => {
    if (!identity) return;
    const { lasts } = await history.keep('by-hand', identity, base);
    if (!lasts) {
      setSaid({
        tone: 'red',
        text: 'What is on the board could not be kept, so nothing was reset. Save the craft to a file first.',
      });
      return;
    }
    dispatch(staged(Object.fromEntries(unlike.map((d) => [d.key, d.b!]))));
    setSaid({
      tone: 'plain',
      text: `What the board holds was kept first. ${unlike.length} settings wait in the tray with their defaults: look them over and write them, or undo.`,
    });
  };
  const clean = async () => {
    const { tone, text } = await flightReader.cleanBoard();
    setSaid({ tone, text });
  };
  return (
    <section aria-label="Begin anew" className="mt-4 border-line border-t pt-3">
      <h2 className="font-semibold">Begin anew</h2>
      <p className="max-w-[660px] text-soft">
        Every setting back to the firmware’s default, through the tray; and the flights that are read, thrown
        away on the board. What the board holds is kept first, and nothing that was not read is thrown away.
      </p>
      <p className="mt-2 flex flex-wrap gap-3">
        <Button disabled={!ready || !identity || unlike.length === 0} onClick={() => void reset()}>
          Reset {unlike.length} settings to their defaults
        </Button>
        <Button disabled={!ready} onClick={() => void clean()}>
          Clean the board’s store of flights
        </Button>
      </p>
      {!ready && <p className="mt-1 text-[13px] text-soft">It needs the board: plug it in.</p>}
      {said && (
        <Notice tone={said.tone} className="mt-2">
          {said.text}
        </Notice>
      )}
    </section>
  );
}
