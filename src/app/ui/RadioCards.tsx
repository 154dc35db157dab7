import { RadioGroup } from 'radix-ui';

interface Card<Id extends string> {
  readonly id: Id;
  readonly name: string;
  /** What it means, under its name. */
  readonly after?: string;
}

interface Props<Id extends string> {
  readonly label: string;
  readonly value: Id | null;
  readonly cards: readonly Card<Id>[];
  readonly className?: string;
  readonly onChange: (id: Id) => void;
}

/** One of a few that stand beside each other, each with room for what it means. Arrow keys go from one to the next. */
export function RadioCards<Id extends string>({ label, value, cards, className = '', onChange }: Props<Id>) {
  return (
    <RadioGroup.Root
      aria-label={label}
      value={value}
      className={className}
      onValueChange={(id) => onChange(id as Id)}
    >
      {cards.map(({ id, name, after }) => (
        <RadioGroup.Item
          key={id}
          value={id}
          className={`max-w-[260px] rounded-[4px] border px-3 py-1.5 text-left data-[state=checked]:border-forest data-[state=checked]:bg-forest-wash data-[state=unchecked]:border-line data-[state=unchecked]:bg-sheet data-[state=unchecked]:hover:border-contour ${after ? 'flex flex-col' : 'truncate data-[state=checked]:font-semibold'}`}
        >
          {after ? <b className="font-semibold">{name}</b> : name}
          {after && <span className="block text-[13px] text-soft leading-4">{after}</span>}
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  );
}
