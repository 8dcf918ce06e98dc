import { useEffect, useMemo, useState } from 'react';
import type { Background, Frame } from '../../../contract/index.ts';
import { MOST_FORETOLD } from '../../../contract/place.ts';
import { fringeStep, fringeWords } from '../../../core/place/fringeWords.ts';
import { defaultPlacement } from '../../../core/place/index.ts';
import { Choice } from '../../shared/Choice.tsx';
import { Strip } from '../../shared/layout.tsx';
import { useStore } from '../../state/store.ts';
import { useFringes } from '../place/useFringes.ts';

/** Backgrounds that a cut can be judged on. */
function useOffered(): Background[] {
  const backgrounds = useStore((state) => state.backgrounds);
  return useMemo(() => backgrounds.filter(({ removed }) => !removed).slice(0, MOST_FORETOLD), [backgrounds]);
}

/** The frame as it stands on the background that it is judged on: its own, or another one, in the middle of it. */
export function useJudgedOn(frame: Frame) {
  const offered = useOffered();
  const [chosen, judgeOn] = useState<number>();
  useEffect(() => judgeOn(undefined), [frame.id]);
  const backgroundId = chosen ?? frame.placement?.backgroundId ?? offered.at(0)?.id;
  const judged = useMemo(
    () =>
      backgroundId === undefined || backgroundId === frame.placement?.backgroundId
        ? frame
        : { ...frame, placement: { ...defaultPlacement, look: {}, backgroundId } },
    [frame, backgroundId],
  );
  return { judged, judgeOn };
}

/** Who goes through frames by key is not kept waiting by what is foretold of those that were passed, milliseconds. */
const REST = 700;

/** Whether a frame has been looked at for a moment. */
function useRest(frameId: number): boolean {
  const [rested, setRested] = useState<number>();
  useEffect(() => {
    const timer = setTimeout(() => setRested(frameId), REST);
    return () => clearTimeout(timer);
  }, [frameId]);
  return rested === frameId;
}

/** Which background the cut is shown on; where its fringe shows most comes first. */
export function JudgedOn({
  frame,
  judged,
  judgeOn,
}: {
  frame: Frame;
  judged: Frame;
  judgeOn: (backgroundId: number) => void;
}) {
  const offered = useOffered();
  const rests = useRest(frame.id);
  const { seen } = useFringes(frame.cut && rests ? [{ frame, on: offered }] : []);
  const amounts = seen.get(frame.id);
  const options = offered
    .map(({ id, name }, n) => ({ id, name, amount: amounts?.[n] ?? undefined }))
    .toSorted((a, b) => (b.amount ?? 0) - (a.amount ?? 0))
    .map(({ id, name, amount }) => ({
      value: String(id),
      title: [
        name,
        ...(id === frame.placement?.backgroundId ? ['where they stand'] : []),
        ...(amount === undefined ? [] : [`fringe ${fringeWords[fringeStep(amount)].words}`]),
      ].join(', '),
    }));
  return (
    <Strip sx={{ gap: 1.5 }}>
      <Choice
        label="Background"
        value={String(judged.placement?.backgroundId ?? '')}
        options={options}
        onChange={(id) => judgeOn(Number(id))}
      />
      <span className="quiet" role="status">
        {!frame.cut
          ? 'foretold once it is extracted'
          : amounts
            ? 'where its fringe shows most comes first'
            : 'looking where its fringe shows most …'}
      </span>
    </Strip>
  );
}
