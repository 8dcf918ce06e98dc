import { useCallback, useEffect, useState } from 'react';
import type { ShootLog } from '../../../contract/index.ts';
import { api } from '../../state/api.ts';
import { attempt, useStore } from '../../state/store.ts';

/** The log of the open shoot; read again when something of the shoot is told, but no more often than it takes to read. */
export function useLog(shootId: number) {
  const [log, setLog] = useState<ShootLog>();
  // What events and figures are made from.
  const signs = useStore(
    ({ frames, plans, checks, deliveries, setups }) =>
      `${frames.length} ${frames.filter(({ cut }) => cut).length} ${plans.length} ${checks.length} ${deliveries.length} ${setups.length}`,
  );
  const load = useCallback(async (): Promise<void> => {
    const read = await attempt(api.log(shootId));
    if (read) setLog(read);
  }, [shootId]);
  useEffect(() => {
    const soon = setTimeout(() => void load(), 300);
    return () => clearTimeout(soon);
  }, [load, signs]);
  return { log, load, take: setLog };
}
export type OpenLog = ReturnType<typeof useLog>;

/** The logs of all shoots. */
export function useLogs(): ShootLog[] | undefined {
  const [logs, setLogs] = useState<ShootLog[]>();
  useEffect(() => void attempt(api.logs()).then((read) => read && setLogs(read)), []);
  return logs;
}
