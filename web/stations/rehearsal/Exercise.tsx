import { zodResolver } from '@hookform/resolvers/zod';
import { Box, Button, Checkbox, FormControl, FormControlLabel, FormGroup, FormLabel } from '@mui/material';
import { useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import {
  rehearsalAnswerSchema,
  type PictureKind,
  type Rehearsal,
  type RehearsalAnswer,
} from '../../../contract/index.ts';
import { readingFacts, type ReadingId } from '../../../core/plan/readings.ts';
import { rehearsedFacts, type RehearsedCause } from '../../../core/screen/causeFacts.ts';
import { remedies, type RemedyId } from '../../../core/studio/rehearsal.ts';
import { BoundReading } from '../../shared/BoundReading.tsx';
import { Choice } from '../../shared/Choice.tsx';
import { Caption, Plate, ReadingMargin, Strip } from '../../shared/layout.tsx';
import { ViewStrip } from '../../shared/ViewStrip.tsx';
import { api, pictures } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { CheckStage } from '../check/CheckStage.tsx';
import { EvidencePicture } from '../check/EvidencePicture.tsx';
import { titleOf } from '../check/kinds.ts';

/** Most causes that can be named. */
const MOST_CAUSES = 3;

/** A set to be read: its photographs, its readings, and an answer or the truth. */
export function Exercise({
  rehearsal,
  onAnswered,
}: {
  rehearsal: Rehearsal;
  onAnswered: (rehearsal: Rehearsal) => void;
}) {
  const [kind, setKind] = useState<PictureKind>('people');
  const { findings, truth } = rehearsal;
  const picture = rehearsal.pictures.find((one) => one.kind === kind) ?? rehearsal.pictures[0];
  const shownBy = new Set<string>(truth?.shownBy);
  const evidence = truth
    ? findings.readings.filter(({ id }) => shownBy.has(id)).flatMap((reading) => reading.evidence)
    : [];
  return (
    <>
      <Plate aria-label="Photograph">
        <Strip>
          <ViewStrip
            label="View"
            views={rehearsal.pictures.map((one) => ({ value: one.kind, title: titleOf(one.kind) }))}
            value={picture.kind}
            onChange={setKind}
          />
        </Strip>
        <CheckStage>
          <EvidencePicture
            src={pictures.rehearsed(rehearsal.id, picture)}
            label={titleOf(picture.kind)}
            aspect={picture.width / picture.height}
            evidence={picture.kind === 'people' || picture.kind === 'plate' ? evidence : []}
          />
        </CheckStage>
        <Caption />
      </Plate>
      <ReadingMargin aria-label="Answer">
        {truth && rehearsal.answer ? (
          <Truth truth={truth} answer={rehearsal.answer} />
        ) : (
          <AnswerForm id={rehearsal.id} onAnswered={onAnswered} />
        )}
        <Box component="h2" sx={{ pt: 1.5 }}>
          Readings
        </Box>
        {[...findings.readings]
          .sort((a, b) => Number(shownBy.has(b.id)) - Number(shownBy.has(a.id)))
          .map(({ id, value, reason }) => (
            <BoundReading key={id} id={id} value={value} reason={reason} note={shownBy.has(id) ? 'shows it' : ''} />
          ))}
      </ReadingMargin>
    </>
  );
}

function Truth({ truth, answer }: { truth: NonNullable<Rehearsal['truth']>; answer: RehearsalAnswer }) {
  const titles = (ids: RehearsedCause[]): string => ids.map((id) => rehearsedFacts[id].title).join('; ') || 'nothing';
  return (
    <Box role="status" sx={{ display: 'grid', gap: 0.75 }}>
      <Box sx={{ fontSize: 20, fontWeight: 640 }}>{truth.causesRight ? 'Right.' : 'Not what it was.'}</Box>
      <p>
        It was: <strong>{titles(truth.causes)}</strong>. You said: {titles(answer.causes)}.
      </p>
      <p>
        {truth.causes.length ? (
          <>
            What helps: {truth.remedies.map((id) => remedies[id].words.toLowerCase()).join('; ')}.{' '}
            {truth.remedyRight ? 'You chose one of these.' : 'Your remedy would not have.'}
          </>
        ) : truth.remedyRight ? (
          'Nothing needed changing, and you left it alone.'
        ) : (
          'Nothing needed changing.'
        )}
      </p>
      {truth.shownBy.length > 0 && (
        <p>
          It shows in:{' '}
          {[...new Set(truth.shownBy)].map((id: ReadingId) => readingFacts[id].title.toLowerCase()).join('; ')}.
        </p>
      )}
    </Box>
  );
}

function AnswerForm({ id, onAnswered }: { id: number; onAnswered: (rehearsal: Rehearsal) => void }) {
  const { control, handleSubmit } = useForm({
    resolver: zodResolver(rehearsalAnswerSchema),
    defaultValues: { causes: [], remedy: null } as RehearsalAnswer,
  });
  const answer = async (given: RehearsalAnswer): Promise<void> => {
    const answered = await attempt(api.answerRehearsal(id, given));
    if (answered) onAnswered(answered);
  };
  return (
    <Box component="form" sx={{ display: 'grid', gap: 1.25 }} onSubmit={(event) => void handleSubmit(answer)(event)}>
      <Controller
        control={control}
        name="causes"
        render={({ field: { value: causes, onChange } }) => (
          <FormControl>
            <FormLabel sx={{ fontWeight: 640, pb: 0.5 }}>What is wrong? None, if nothing is.</FormLabel>
            <FormGroup sx={{ gap: 0.25 }}>
              {(Object.keys(rehearsedFacts) as RehearsedCause[]).map((cause) => (
                <FormControlLabel
                  key={cause}
                  control={<Checkbox />}
                  label={rehearsedFacts[cause].title}
                  checked={causes.includes(cause)}
                  disabled={!causes.includes(cause) && causes.length >= MOST_CAUSES}
                  onChange={(_, on) => onChange(on ? [...causes, cause] : causes.filter((c) => c !== cause))}
                />
              ))}
            </FormGroup>
          </FormControl>
        )}
      />
      <Controller
        control={control}
        name="remedy"
        render={({ field: { value, onChange } }) => (
          <div>
            <FormLabel sx={{ fontWeight: 640 }}>What would you do first?</FormLabel>
            <Choice
              aria="What would you do first?"
              value={value ?? ''}
              options={[
                { value: '', title: 'nothing, start' },
                ...(Object.keys(remedies) as RemedyId[]).map((remedy) => ({
                  value: remedy,
                  title: remedies[remedy].words,
                })),
              ]}
              onChange={(remedy) => onChange(remedy || null)}
            />
          </div>
        )}
      />
      <Button type="submit" variant="contained" color="primary" sx={{ justifySelf: 'start' }}>
        That is my answer
      </Button>
    </Box>
  );
}
