import { Link, useNavigate } from 'react-router';
import { luckOf, OTHER_SEEDS, type RehearsalResult, verdictWords } from '#core/formats/rehearsalResult.ts';
import { formatQuantity } from '#core/units/units.ts';
import { selectCatalogue } from '../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { uiChanged } from '../../store/uiSlice.ts';
import { TextButton, textLook } from '../../ui/TextButton.tsx';
import { Told } from '../../ui/Told.tsx';
import { madeAt, pathOf } from '../legs.ts';

interface Props {
  readonly result: RehearsalResult;
  /** How the craft is built is known. */
  readonly built: boolean;
  /** What changed since it was flown; empty where nothing did. */
  readonly stale: string;
  readonly children: React.ReactNode;
}

/** How the flight ended and why, whether luck had a hand in it, and what would have changed it. */
export function VerdictBar({ result, built, stale, children }: Props) {
  const luck = luckOf(result);
  const othersFlying = useApp((s) => s.rehearsal.othersFlying);
  const home = result.verdict === 'home';
  const edge = home ? (luck ? 'border-l-amber' : 'border-l-forest') : 'border-l-red';
  const word = home ? (luck ? 'text-amber' : 'text-forest') : 'text-red';
  return (
    <div
      className={`mt-2 flex flex-wrap items-center gap-x-5 gap-y-2 rounded-[4px] border border-line border-l-4 bg-paper px-3.5 py-2 ${edge}`}
      role="status"
    >
      <b className={`w-28 shrink-0 font-semibold text-[18px] leading-[22px] ${word}`}>
        {verdictWords[result.verdict]}
        {home && luck && <span className="block text-[13px] leading-[16px]">by luck</span>}
      </b>
      <div className="max-h-[180px] min-w-[300px] flex-1 overflow-y-auto text-soft">
        <p>
          <Told>{result.reason}</Told> {formatQuantity(result.usedWh, 'wh', 'metric', 1)} used.{' '}
          <SettingLinks keys={result.settings} />{' '}
          <span className="text-faint">
            {othersFlying
              ? `Flying ${OTHER_SEEDS} other seeds…`
              : result.others && !luck && `${OTHER_SEEDS} other seeds end alike.`}
          </span>{' '}
          <Link to="/rehearse/trust" className={`whitespace-nowrap ${textLook('lake')}`}>
            How far to trust it
          </Link>
        </p>
        {luck && (
          <p className="text-amber">
            <Told>{luck}</Told>
          </p>
        )}
        {home && result.near.length > 0 && (
          <p className="text-amber">
            Near an edge: <Told>{result.near.join(' ')}</Told>
          </p>
        )}
        {!built && (
          <p>
            The craft file does not say how the craft is built, so every output was taken to move as its
            settings say.
          </p>
        )}
        {stale && <b className="block font-medium text-red">Since it was flown {stale}. Fly again.</b>}
      </div>
      <div className="flex gap-5">{children}</div>
    </div>
  );
}

/** The station at which a setting is made, to go to. */
function MadeAt({ name }: { readonly name: string }) {
  const navigate = useNavigate();
  const station = madeAt(name);
  if (!station) return null;
  return (
    <>
      {' '}
      (<TextButton onClick={() => navigate(pathOf(station.id))}>at {station.name}</TextButton>)
    </>
  );
}

/** Settings that would have changed the end, to be opened from here. */
function SettingLinks({ keys }: { readonly keys: readonly string[] }) {
  const catalogue = useApp(selectCatalogue);
  const dispatch = useAppDispatch();
  const entries = keys.flatMap((k) => catalogue.entry(k) ?? []);
  if (entries.length === 0) return null;
  return (
    <span>
      Look at{' '}
      {entries.map((e, i) => (
        <span key={e.key}>
          {i > 0 && ', '}
          <TextButton tone="lake" onClick={() => dispatch(uiChanged({ editing: e.key }))}>
            {e.label.toLowerCase()}
          </TextButton>
          <MadeAt name={e.key} />
        </span>
      ))}
      .
    </span>
  );
}
