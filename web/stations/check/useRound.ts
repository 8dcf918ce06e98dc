import { useEffect, useState } from 'react';
import type { Check, PictureKind, Setup } from '../../../contract/index.ts';
import type { SubjectName } from '../../../core/studio/cast.ts';
import { useKeys } from '../../shared/keys.ts';
import { api } from '../../state/api.ts';
import { runJob, useFailedJob, useOpenJob } from '../../state/jobs.ts';
import { attempt, useStore } from '../../state/store.ts';
import { useReceiving } from './useReceiving.ts';
import { defaultView, viewsOf, type View } from './views.ts';

/** What is known of the chosen round, and what can be done with it; for its margin, its picture and its findings. */
export type RoundBench = ReturnType<typeof useRound>;

export function useRound(setup: Setup, rounds: Check[], check: Check | undefined, onChoose: (round: number) => void) {
  const plans = useStore((state) => state.plans);
  const plan = plans.find((row) => row.setupId === setup.id) ?? plans[0];
  const [view, setView] = useState<View>();
  const [cause, setCause] = useState<string>();
  const [who, setWho] = useState<SubjectName>('maren');
  const [marking, setMarking] = useState(false);
  const about = { checkId: check?.id };
  const taking = useOpenJob(['testShot'], about);
  const reading = useOpenJob(['reading'], about);
  const failed = useFailedJob(['testShot', 'reading'], about);
  const previous = (check && rounds[rounds.indexOf(check) - 1]?.findings) ?? undefined;
  const findings = check?.findings ?? undefined;
  const views = viewsOf(check, previous);
  useReadingMadeUp(check, reading !== undefined || taking !== undefined);
  useKeys('check', { view: (key) => views[Number(key) - 1] && setView(views[Number(key) - 1].view) });

  const choose = (id: number): void => {
    setView(undefined);
    setCause(undefined);
    onChoose(id);
  };
  const begin = async (): Promise<Check | undefined> => {
    const made = await attempt(api.createCheck(setup.id));
    if (made) choose(made.id);
    return made;
  };
  const { upload, refused, receive } = useReceiving(async () => check ?? (await begin()), setView);
  const take = async (kind: PictureKind): Promise<void> => {
    if (!check || !plan || kind === 'background') return;
    const people = kind === 'people' ? [who] : [];
    const seed = check.id * 10 + check.pictures.length;
    const job = await runJob(api.takeTestFrame(check.id, { planId: plan.id, kind, people, seed }));
    if (job?.state === 'done') setView(kind);
  };
  return {
    ...{ check, plan, previous, findings },
    ...{ taking, reading, failed, upload, refused },
    shown: view ?? defaultView(check, findings, cause),
    ...{ views, setView, cause, setCause, who, setWho, marking, setMarking },
    ...{ choose, begin, receive, take },
  };
}

/**
 * After which a round that has photographs, no findings and no job is read once more, ms: rounds of an earlier version.
 */
const MADE_UP_AFTER = 1500;

function useReadingMadeUp(check: Check | undefined, underWay: boolean): void {
  const missing = check !== undefined && check.findings === null && check.pictures.length > 0 && !underWay;
  useEffect(() => {
    if (!missing) return;
    const timer = setTimeout(() => void attempt(api.readCheck(check.id)), MADE_UP_AFTER);
    return () => clearTimeout(timer);
  }, [missing, check?.id]);
}
