import { type ReactNode, useEffect, useRef, useState } from 'react';
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
  const release = useRef(onRelease);
  release.current = onRelease;
  const end = () => {
    setHeld((h) => {
      if (h) release.current();
      return false;
    });
  };
  const begin = () => {
    if (disabled || held) return;
    setHeld(true);
    onHold();
  };
  useEffect(() => {
    if (!held) return;
    const stop = () => {
      setHeld(false);
      release.current();
    };
    window.addEventListener('pointerup', stop);
    window.addEventListener('blur', stop);
    document.addEventListener('visibilitychange', stop);
    return () => {
      window.removeEventListener('pointerup', stop);
      window.removeEventListener('blur', stop);
      document.removeEventListener('visibilitychange', stop);
    };
  }, [held]);
  // Leaving the station lets go.
  useEffect(() => () => release.current(), []);
  useEffect(() => {
    if (disabled && held) {
      setHeld(false);
      release.current();
    }
  }, [disabled, held]);
  return (
    <Button
      kind="live"
      disabled={disabled}
      aria-pressed={held}
      className={`touch-none select-none px-4 py-2 ${held ? 'ring-4 ring-lake-wash' : ''}`}
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
