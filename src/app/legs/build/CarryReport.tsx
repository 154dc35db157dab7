import type { KeyValue, MigrationItem, MigrationReport } from '#core/settings/migration/migrate.ts';
import { formatQuantity } from '#core/units/units.ts';
import { selectCatalogue } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Check } from '../../ui/Check.tsx';
import { Panel } from '../../ui/Panel.tsx';

/** Kinds of outcome in the order in which a person has to mind them. */
const parts: readonly { readonly kind: MigrationItem['kind']; readonly title: string }[] = [
  { kind: 'decide', title: 'For you to decide' },
  { kind: 'dropped', title: 'Dropped' },
  { kind: 'converted', title: 'Converted' },
  { kind: 'renamed', title: 'Renamed' },
  { kind: 'new', title: 'New, with their defaults' },
  { kind: 'kept', title: 'Kept as they are' },
];

/** What became of every setting on the way from one firmware version to another. */
export function CarryReport({
  report,
  onChoose,
  onClose,
}: {
  readonly report: MigrationReport;
  readonly onChoose: (id: string, option: number) => void;
  readonly onClose: () => void;
}) {
  return (
    <Panel
      open
      onClose={onClose}
      side="right"
      title={`From Pfad ${report.from} to ${report.to}`}
      lead="Carried over by what each setting means. Nothing is written until you take it and write it."
    >
      <CarryItems report={report} onChoose={onChoose} />
    </Panel>
  );
}

/** Every outcome, by how much a person has to mind it. */
export function CarryItems({
  report,
  onChoose,
}: {
  readonly report: MigrationReport;
  readonly onChoose: (id: string, option: number) => void;
}) {
  return (
    <>
      {parts.map(({ kind, title }) => {
        const items = report.items.filter((i) => i.kind === kind);
        if (items.length === 0) return null;
        const list = (
          <ul>
            {items.map((i) => (
              <Item key={[...i.from, ...i.to].map((k) => k.key).join()} item={i} onChoose={onChoose} />
            ))}
          </ul>
        );
        const open = kind === 'decide' || kind === 'dropped' || kind === 'converted';
        return (
          <details key={kind} open={open} className="mb-3">
            <summary className="label cursor-pointer">
              {title} <span className="num">({items.length})</span>
            </summary>
            {list}
          </details>
        );
      })}
    </>
  );
}

function Item({
  item: i,
  onChoose,
}: {
  readonly item: MigrationItem;
  readonly onChoose: (id: string, option: number) => void;
}) {
  const catalogue = useApp(selectCatalogue);
  const shown = (k: KeyValue) =>
    `${k.key} = ${typeof k.value === 'number' && k.unit ? formatQuantity(k.value, k.unit) : String(k.value)}`;
  const name = i.to.map((k) => catalogue.entry(k.key)?.label ?? k.key).join(', ');
  return (
    <li className="border-line border-b py-1.5">
      <p className="num text-[12.5px]">
        {i.from.map(shown).join(', ')}
        {i.from.length > 0 && i.to.length > 0 && ' → '}
        <b className="font-medium">{i.to.map(shown).join(', ')}</b>
      </p>
      <p className="text-[13px] text-soft">
        {name}
        {i.formula && <span className="text-lake"> {i.formula}</span>}
      </p>
      {i.why && <p className="text-[13px] text-soft">{i.why}</p>}
      {i.decision && (
        <fieldset className="mt-1 flex flex-wrap gap-x-4" aria-label={`Decide on ${name}`}>
          {i.decision.options.map((option, n) => (
            <Check
              key={option}
              kind="radio"
              name={i.decision!.id}
              checked={i.decision!.chosen === n}
              onChange={() => onChoose(i.decision!.id, n)}
            >
              {option}
            </Check>
          ))}
        </fieldset>
      )}
    </li>
  );
}
