import { Box } from '@mui/material';
import { useDropzone } from 'react-dropzone';
import { useSearchParams } from 'react-router';
import type { Check, PictureKind, Setup } from '../../../contract/index.ts';
import { demoPeople, type SubjectName } from '../../../core/studio/cast.ts';
import { Choice } from '../../shared/Choice.tsx';
import { ListMargin, ReadingMargin } from '../../shared/layout.tsx';
import { api } from '../../state/api.ts';
import { attempt, useStore } from '../../state/store.ts';
import { CheckFindings } from './CheckFindings.tsx';
import { CheckBench } from './CheckStage.tsx';
import { PictureSlots } from './PictureSlots.tsx';
import { RoundList } from './RoundList.tsx';
import { RoundPlate } from './RoundPlate.tsx';
import { useRound } from './useRound.ts';

/** Test frames of a setup: photograph, read, change, photograph again, sign off. */
export function CheckPage() {
  const shoot = useStore((state) => state.shoot);
  const setups = useStore((state) => state.setups);
  const checks = useStore((state) => state.checks);
  const [search, setSearch] = useSearchParams();
  const setup = setups.find((s) => s.id === Number(search.get('setup'))) ?? setups[0];
  const rounds = checks.filter((check) => check.setupId === setup?.id);
  const check = rounds.find((c) => c.id === Number(search.get('round'))) ?? rounds.at(-1);
  if (!shoot || !setup) return null;
  const choose = (setupId: number, roundId?: number): void =>
    setSearch({ setup: String(setupId), ...(roundId ? { round: String(roundId) } : {}) }, { replace: true });
  return <Round key={setup.id} setup={setup} setups={setups} rounds={rounds} check={check} onChoose={choose} />;
}

function Round({
  setup,
  setups,
  rounds,
  check,
  onChoose,
}: {
  setup: Setup;
  setups: Setup[];
  rounds: Check[];
  check: Check | undefined;
  onChoose: (setupId: number, roundId?: number) => void;
}) {
  const bench = useRound(setup, rounds, check, (round) => onChoose(setup.id, round));
  const { plan } = bench;
  const drop = useDropzone({ onDrop: (files) => void bench.receive(files), noClick: true, noKeyboard: true });
  return (
    <CheckBench className={drop.isDragActive ? 'over' : undefined} {...drop.getRootProps()}>
      <ListMargin aria-label="Setup and rounds">
        <Box sx={{ pb: 0.75 }}>
          <Choice
            label="Setup"
            value={String(setup.id)}
            options={setups.map((s) => ({ value: String(s.id), title: s.name }))}
            onChange={(id) => onChoose(Number(id))}
          />
        </Box>
        <RoundList rounds={rounds} current={check?.id} onChoose={bench.choose} onBegin={() => void bench.begin()} />
        {check && plan && (
          <Box sx={{ pb: 0.75 }}>
            <span className="quiet">Stand-in camera, by “{plan.plan.name}”</span>
            <Choice
              aria="Who stands there"
              value={bench.who}
              options={Object.entries(demoPeople).map(([value, subject]) => ({ value, title: subject.name }))}
              onChange={(name) => bench.setWho(name as SubjectName)}
            />
          </Box>
        )}
        {check && (
          <PictureSlots
            check={check}
            shown={bench.shown as PictureKind}
            busy={bench.upload !== undefined}
            canTake={plan !== undefined}
            onShow={bench.setView}
            onFile={(file, kind) => void bench.receive([file], kind)}
            onTake={(kind) => void bench.take(kind)}
            onRemove={(kind) => void attempt(api.removeTestPicture(check.id, kind))}
          />
        )}
      </ListMargin>
      <RoundPlate bench={bench} drop={drop} />
      <ReadingMargin aria-label="Findings">
        {check ? (
          <CheckFindings check={check} previous={bench.previous} chosen={bench.cause} onChoose={bench.setCause} />
        ) : (
          <p className="quiet">
            Readings appear here: evenness, creases, shadow, spill, noise, focus and more, each with its bound.
          </p>
        )}
      </ReadingMargin>
    </CheckBench>
  );
}
