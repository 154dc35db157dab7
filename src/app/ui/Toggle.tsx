interface ToggleProps {
  readonly name: string;
  readonly on: boolean;
  readonly words: readonly [string, string];
  readonly onChange: (on: boolean) => void;
}

/** A two-way thing on the bench. */
export function Toggle({ name, on, words, onChange }: ToggleProps) {
  return (
    <button
      type="button"
      role="switch"
      aria-checked={on}
      className="flex items-center justify-between gap-2 rounded-[4px] border border-wood-dark bg-transparent px-2 py-0.5 text-[13px]"
      onClick={() => onChange(!on)}
    >
      {name}
      <b className="font-semibold">{words[on ? 1 : 0]}</b>
    </button>
  );
}
