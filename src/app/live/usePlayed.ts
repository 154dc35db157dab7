import { useEffect, useRef, useState } from 'react';

/** So often the page is told what time it is while a flight plays, ms; the picture itself follows every frame. */
const TOLD_MS = 200;

/**
 * The time of a flight that is played.
 * @param endS when it ends, s; 0 for none
 * @param onFrame called every frame while it plays
 * @param usualSpeed so many times as fast as it was flown, until somebody says otherwise
 */
export function usePlayed(endS: number, onFrame: (atS: number) => void, usualSpeed = 1) {
  const [atS, setAtS] = useState(0);
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState(usualSpeed);
  const frame = useRef(onFrame);
  frame.current = onFrame;
  const from = useRef(atS);
  from.current = playing ? from.current : atS;
  useEffect(() => {
    if (!playing) return;
    let last = performance.now();
    let told = last;
    let id = requestAnimationFrame(function run(now: number) {
      from.current = Math.min(endS, from.current + ((now - last) / 1000) * speed);
      last = now;
      frame.current(from.current);
      if (from.current >= endS) {
        setAtS(endS);
        setPlaying(false);
        return;
      }
      if (now - told > TOLD_MS) {
        told = now;
        setAtS(from.current);
      }
      id = requestAnimationFrame(run);
    });
    return () => cancelAnimationFrame(id);
  }, [playing, endS, speed]);
  const goTo = (s: number) => {
    from.current = Math.max(0, Math.min(endS, s));
    setAtS(from.current);
  };
  return {
    atS: Math.min(atS, endS),
    playing,
    speed,
    setSpeed,
    goTo,
    rest: () => setPlaying(false),
    toggle: () => {
      if (!playing && from.current >= endS - 0.1) goTo(0);
      else setAtS(from.current);
      setPlaying(!playing);
    },
  };
}
