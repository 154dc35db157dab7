import type { Change } from '#core/settings/draft.ts';
import { valueTexts } from '#core/settings/valueText.ts';
import { legs, madeAt } from '../legs/legs.ts';
import { selectCatalogue } from '../store/selectors.ts';
import { dropped } from '../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { Panel } from '../ui/Panel.tsx';
import { TextButton } from '../ui/TextButton.tsx';
import { Told } from '../ui/Told.tsx';

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
      {why.has('') && (
        <Notice className="mb-2">
          <Told>{why.get('')!}</Told>
        </Notice>
      )}
      {grouped(changes).map(([place, of]) => (
        <section key={place} aria-label={place} className="mt-3 first:mt-0">
          <h3 className="label flex">
            {place}
            <span className="ml-auto font-normal">
              {of.length}{' '}
              <TextButton className="ml-2" onClick={() => dispatch(dropped(of.map((c) => c.key)))}>
                Drop these
              </TextButton>
            </span>
          </h3>
          <ul>
            {of.map((c) => {
              const entry = catalogue.entry(c.key);
              const [was, willBe] = valueTexts(entry, c.was, c.willBe, units);
              return (
                <li key={c.key} className="border-line border-b py-2">
                  <div className="flex items-baseline gap-2">
                    <span className="font-medium">{entry?.label ?? c.key}</span>
                    <span className="ml-auto flex gap-2">
                      <s className="num text-faint">{was}</s>
                      <b className="num font-medium">{willBe}</b>
                    </span>
                  </div>
                  <div className="flex text-[13px] text-soft">
                    {entry?.effect === 'restart' ? 'takes effect after a restart' : 'takes effect at once'}
                    <TextButton className="ml-auto" onClick={() => dispatch(dropped([c.key]))}>
                      Drop
                    </TextButton>
                  </div>
                  {why.has(c.key) && (
                    <p className="text-red text-sm">
                      Refused: <Told>{why.get(c.key)!}</Told>
                    </p>
                  )}
                </li>
              );
            })}
          </ul>
        </section>
      ))}
      {changes.length > 0 && (
        <Button className="mt-3" onClick={() => dispatch(dropped(changes.map((c) => c.key)))}>
          Drop all
        </Button>
      )}
    </Panel>
  );
}

/** Edits by the station at which they are made, in the order of the walk; those that are made by name come last. */
function grouped(changes: readonly Change[]): readonly (readonly [string, readonly Change[]])[] {
  const by = new Map<string, Change[]>();
  const places = [...legs.flatMap((l) => l.stations.map((s) => s.name)), BY_NAME];
  for (const place of places) by.set(place, []);
  for (const c of changes) by.get(madeAt(c.key)?.name ?? BY_NAME)!.push(c);
  return [...by].filter(([, of]) => of.length > 0);
}

const BY_NAME = 'Made by name';
