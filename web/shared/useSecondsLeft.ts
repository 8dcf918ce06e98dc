import { useEffect, useRef, useState } from 'react';

/**
 * Seconds that the rest will take at the pace so far; null until one is done.
 * @param left how many are still to come; more than before is a new beginning.
 */
export function useSecondsLeft(left: number): number | null {
  const [seconds, setSeconds] = useState<number | null>(null);
  const begun = useRef({ at: 0, left: -1 });
  const last = useRef(-1);
  useEffect(() => {
    const now = performance.now();
    const done = begun.current.left - left;
    if (last.current < 0 || left > last.current) {
      begun.current = { at: now, left };
      setSeconds(null);
    } else if (done > 0) setSeconds((left * (now - begun.current.at)) / 1000 / done);
    last.current = left;
  }, [left]);
  return seconds;
}
