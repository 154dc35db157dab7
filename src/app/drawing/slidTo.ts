/** Shift and pages go so many times as far. */
const FAR = 10;

/**
 * Where a slider along time goes by a key, as the ARIA practice of sliders has it; null where the key is none of its own.
 * @param step of one press of an arrow
 */
export function slidTo(
  { key, shiftKey }: { readonly key: string; readonly shiftKey: boolean },
  at: number,
  most: number,
  step: number,
): number | null {
  const by = step * (shiftKey ? FAR : 1);
  const within = (to: number) => Math.min(most, Math.max(0, to));
  switch (key) {
    case 'ArrowRight':
      return within(at + by);
    case 'ArrowLeft':
      return within(at - by);
    case 'PageUp':
      return within(at + FAR * step);
    case 'PageDown':
      return within(at - FAR * step);
    case 'Home':
      return 0;
    case 'End':
      return most;
    default:
      return null;
  }
}
