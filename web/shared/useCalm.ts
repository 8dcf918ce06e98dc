import { useEffect, useRef, useState } from 'react';

/**
 * A value that changes often, as it was at most `ms` ago, so that what is worked out from it is not worked out each time.
 * @param atOnce whether it is wanted as it is now.
 */
export function useCalm<T>(value: T, atOnce: boolean, ms = 2000): T {
  const [shown, show] = useState(value);
  const since = useRef(0);
  useEffect(() => {
    const timer = setTimeout(
      () => {
        since.current = performance.now();
        show(value);
      },
      atOnce ? 0 : Math.max(0, since.current + ms - performance.now()),
    );
    return () => clearTimeout(timer);
  }, [value, atOnce, ms]);
  return atOnce ? value : shown;
}
