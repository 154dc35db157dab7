import type { Change } from '#core/settings/draft.ts';
import { selectCatalogue } from '../store/selectors.ts';
import { dropped } from '../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Panel } from '../ui/Panel.tsx';
import { TextButton } from '../ui/TextButton.tsx';
import { valueText } from '../ui/valueText.ts';

/** Every waiting edit with its effect, and why the board refused it when it did. */
export default function ChangeReview({
  onClose,
  changes,
}: {
  readonly onClose: () => void;
  readonly changes: readonly Change[];
}) {
  const catalogue = useApp(selectCatalogue);
  const units = useApp((s) => s.ui.units);
  const write = useApp((s) => s.board.write);
  const dispatch = useAppDispatch();
  const why = new Map(write.kind === 'refused' ? write.refusals.map((r) => [r.key, r.why]) : []);
  return (
    <Panel
      open
      onClose={onClose}
      side="right"
      title="What would be written"
      lead="All of it together, or nothing. The board reads back what it stored."
    >
      {changes.length === 0 && <p className="text-soft">No edits wait.</p>}
      {why.has('') && <Notice className="mb-2">{why.get('')}</Notice>}
      <ul>
        {changes.map((c) => {
          const entry = catalogue.entry(c.key);
          return (
            <li key={c.key} className="border-line border-b py-2">
              <div className="flex items-baseline gap-2">
                <span className="font-medium">{entry?.label ?? c.key}</span>
                <span className="ml-auto flex gap-2">
                  <s className="num text-faint">{valueText(entry, c.was, units)}</s>
                  <b className="num font-medium">{valueText(entry, c.willBe, units)}</b>
                </span>
              </div>
              <div className="flex text-[13px] text-soft">
                {entry?.effect === 'restart' ? 'takes effect after a restart' : 'takes effect at once'}
                <TextButton className="ml-auto" onClick={() => dispatch(dropped([c.key]))}>
                  Drop
                </TextButton>
              </div>
              {why.has(c.key) && <p className="text-red text-sm">Refused: {why.get(c.key)}</p>}
            </li>
          );
        })}
      </ul>
      {changes.length > 0 && (
        <Button className="mt-3" onClick={() => dispatch(dropped(changes.map((c) => c.key)))}>
          Drop all
        </Button>
      )}
    </Panel>
  );
}
