import { type ReactNode, useCallback, useEffect, useRef, useState } from 'react';
import { Button } from './Button.tsx';

interface Props {
  readonly disabled: boolean;
  readonly onHold: () => void;
  readonly onRelease: () => void;
  readonly children: ReactNode;
}

/** A control that works only while it is held, with mouse, finger or Space; letting go, or losing the page, ends it. */
export function HoldButton({ disabled, onHold, onRelease, children }: Props) {
  const [held, setHeld] = useState(false);
  const holding = useRef(false);
  const release = useRef(onRelease);
  release.current = onRelease;
  const end = useCallback(() => {
    if (!holding.current) return;
    holding.current = false;
    setHeld(false);
    release.current();
  }, []);
  const begin = () => {
    if (disabled || holding.current) return;
    holding.current = true;
    setHeld(true);
    onHold();
  };
  // Letting go anywhere, losing the page or leaving the station ends it.
  useEffect(() => {
    // Any other key is something else that is done: what it opens need not be there yet for the hold to end.
    const other = (e: KeyboardEvent) => {
      if (e.key !== ' ') end();
    };
    window.addEventListener('pointerup', end);
    window.addEventListener('pointercancel', end);
    window.addEventListener('blur', end);
    document.addEventListener('visibilitychange', end);
    window.addEventListener('keydown', other);
    return () => {
      window.removeEventListener('pointerup', end);
      window.removeEventListener('pointercancel', end);
      window.removeEventListener('blur', end);
      document.removeEventListener('visibilitychange', end);
      window.removeEventListener('keydown', other);
      end();
    };
  }, [end]);
  useEffect(() => {
    if (disabled) end();
  }, [disabled, end]);
  return (
    <Button
      kind="live"
      data-hold
      disabled={disabled}
      aria-pressed={held}
      className={`touch-none select-none px-3.5 py-2 ${held ? 'ring-4 ring-lake-wash' : ''}`}
      onPointerDown={(e) => {
        if (e.button === 0) begin();
      }}
      onKeyDown={(e) => {
        if (e.key === ' ') {
          e.preventDefault();
          if (!e.repeat) begin();
        }
      }}
      onKeyUp={(e) => {
        if (e.key === ' ') {
          e.preventDefault();
          end();
        }
      }}
      onBlur={end}
    >
      {children}
    </Button>
  );
}
