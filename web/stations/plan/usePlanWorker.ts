import { wrap, type Remote } from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Plan } from '../../../core/plan/index.ts';
import { latestOnly } from '../../worker/latestOnly.ts';
import type { PlanWorker } from './plan.worker.ts';

/** A worker for plans of one's own, ended with the component. */
export function usePlanWorker(): Remote<PlanWorker> | undefined {
  const [remote, setRemote] = useState<Remote<PlanWorker>>();
  useEffect(() => {
    const worker = new Worker(new URL('./plan.worker.ts', import.meta.url), { type: 'module' });
    setRemote(() => wrap<PlanWorker>(worker));
    return () => worker.terminate();
  }, []);
  return remote;
}

/** Follows a plan with something computed from it; while it changes quickly only the last one counts. */
export function useComputed<T>(
  worker: Remote<PlanWorker> | undefined,
  plan: Plan | undefined,
  compute: (worker: Remote<PlanWorker>, plan: Plan) => Promise<T>,
  key = '',
): { value: T | undefined; behind: boolean } {
  const [state, setState] = useState<{ value: T; plan: Plan; key: string }>();
  const ask = useRef(latestOnly());
  const how = useRef(compute);
  how.current = compute;
  useEffect(() => {
    if (!worker || !plan) return;
    let current = true;
    ask.current(async () => {
      if (!current) return;
      const value = await how.current(worker, plan);
      setState({ value, plan, key });
    });
    return () => {
      current = false;
    };
  }, [worker, plan, key]);
  return { value: state?.value, behind: state?.plan !== plan || state?.key !== key };
}
