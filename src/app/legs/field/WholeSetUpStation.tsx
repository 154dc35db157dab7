import { useEffect, useMemo, useRef } from 'react';
import { createPortal } from 'react-dom';
import { launchOf } from '#core/airframe/launch.ts';
import { SHEET_STYLE, type SheetInput, sheetBody, sheetHtml } from '#core/sheet/sheet.ts';
import { saveText, slug } from '../../files.ts';
import { useStartingValues } from '../../startingValues.ts';
import { selectCatalogue, selectProgress, selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Lead } from '../Lead.tsx';
import { AnewPart } from './setup/AnewPart.tsx';
import { BesideSetUp } from './setup/BesideSetUp.tsx';
import { TwinPart } from './setup/TwinPart.tsx';
import { linesOf } from './walk/linesOf.ts';

/** Everything of a set-up on one sheet, as it is printed and as it is saved. */
export default function WholeSetUpStation() {
  const progress = useApp(selectProgress);
  const file = useApp((s) => s.craft.file!);
  const airframe = useApp((s) => s.craft.airframe!);
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const units = useApp((s) => s.ui.units);
  const starting = useStartingValues();
  const input = useMemo<SheetInput | null>(() => {
    if (!progress) return null;
    const now = new Date();
    return {
      ...{ name: file.name, airframe, board: file.board, values, catalogue, units, now },
      starting: starting ?? [],
      lines: linesOf(progress, now, launchOf(airframe)?.speedMps),
      findings: progress.findings,
      ...{ site: file.site ?? '', setup: file.setup, notes: file.notes },
    };
  }, [progress, file, airframe, values, catalogue, units, starting]);
  if (!input) return <Lead />;
  return (
    <>
      <Lead />
      <p className="mt-3 flex flex-wrap gap-3">
        <Button kind="go" onClick={() => window.print()}>
          Print it, or save it as PDF
        </Button>
        <Button
          onClick={() =>
            saveText(`${slug(file.name)}-set-up.html`, 'text/html', sheetHtml({ ...input, now: new Date() }))
          }
        >
          Save it as a page
        </Button>
      </p>
      <div className="mt-3 rounded-[4px] border border-line bg-white" data-theme="day">
        <Sheet input={input} label={`Everything of ${file.name}`} />
      </div>
      <BesideSetUp />
      <TwinPart />
      <AnewPart />
      {createPortal(
        <div className="print-sheet" data-theme="day">
          <Sheet input={input} />
        </div>,
        document.body,
      )}
    </>
  );
}

/** The sheet in a root of its own, so that it looks here as it does in its file. */
function Sheet({ input, label }: { readonly input: SheetInput; readonly label?: string }) {
  const host = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = host.current;
    if (!element) return;
    const root = element.shadowRoot ?? element.attachShadow({ mode: 'open' });
    // All of it was escaped where it was made (`core/sheet`).
    root.innerHTML = `<style>${SHEET_STYLE}</style>${sheetBody(input)}`;
  }, [input]);
  return (
    <div ref={host} {...(label ? { role: 'document', 'aria-label': label } : { 'aria-hidden': true })} />
  );
}
