interface Props<Id extends string> {
  readonly label: string;
  readonly value: Id;
  readonly tabs: readonly Id[];
  readonly onChange: (id: Id) => void;
}

/** What a drawing shows of a few things, on the drawing itself. */
export function DrawingTabs<Id extends string>({ label, value, tabs, onChange }: Props<Id>) {
  return (
    <div className="flex rounded-[4px] border border-line bg-sheet" role="group" aria-label={label}>
      {tabs.map((tab) => (
        <button
          key={tab}
          type="button"
          aria-pressed={tab === value}
          className="px-2 py-1 text-[13px] aria-pressed:bg-lake-wash"
          onClick={() => onChange(tab)}
        >
          {tab}
        </button>
      ))}
    </div>
  );
}
