import { Box, Button } from '@mui/material';
import type { DropzoneState } from 'react-dropzone';
import { Example } from '../../shared/Example.tsx';
import { FileInput } from '../../shared/FileInput.tsx';
import { JobFailed, JobLine } from '../../shared/JobLine.tsx';
import { Actions, Caption, EmptyPlace, Plate, Strip } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { StepWedge } from '../../shared/StepWedge.tsx';
import { ViewStrip } from '../../shared/ViewStrip.tsx';
import { CheckStage } from './CheckStage.tsx';
import { RoundCaption } from './RoundCaption.tsx';
import { RoundPicture } from './RoundPicture.tsx';
import type { RoundBench } from './useRound.ts';

/** Kinds of photographs on which something can be marked by hand. */
const markables = ['ball', 'background', 'grey card', 'colour chart'];

/** The photographs of a round with what was found on them. */
export function RoundPlate({ bench, drop }: { bench: RoundBench; drop: DropzoneState }) {
  const { check, shown, findings, marking } = bench;
  const markable = check && markables.includes(shown ?? '');
  return (
    <Plate aria-label="Photograph and findings on it">
      <Strip>
        <ViewStrip
          label="View"
          views={bench.views.map(({ view: value, title }, n) => ({ value, title, keyName: String(n + 1) }))}
          value={shown}
          onChange={bench.setView}
        />
        {markable && (
          <Button variant="text" sx={{ ml: 'auto' }} onClick={() => bench.setMarking(!marking)}>
            {marking ? 'Leave it' : shown === 'ball' || shown === 'background' ? 'Circle the ball' : 'Mark it'}
          </Button>
        )}
      </Strip>
      <CheckStage>
        <FileInput label="Test frames" props={drop.getInputProps} />
        <div className="over">
          {bench.refused.map((problem) => (
            <Problem key={problem.name} lead={`${problem.name}: ${problem.reason}.`}>
              {problem.remedy}
            </Problem>
          ))}
          <JobFailed job={bench.failed} />
        </div>
        <UnderWay bench={bench} />
        {check?.pictures.length ? (
          <RoundPicture
            check={check}
            shown={shown}
            findings={findings}
            previous={bench.previous}
            cause={bench.cause}
            marking={marking}
            onMarked={() => bench.setMarking(false)}
          />
        ) : (
          <Untested bench={bench} onOpen={drop.open} />
        )}
      </CheckStage>
      <Caption>{check && <RoundCaption shown={shown} findings={findings} />}</Caption>
    </Plate>
  );
}

/** What is on its way into the round. */
function UnderWay({ bench: { upload, taking, reading } }: { bench: RoundBench }) {
  if (!upload && !taking && !reading) return null;
  return (
    <div className="under-way">
      {upload && (
        <div role="status">
          {upload.name} is on its way … <StepWedge share={upload.share} label="Upload" />
        </div>
      )}
      {taking && <JobLine job={taking} label="Taking" words="The stand-in camera takes it" />}
      {reading && <JobLine job={reading} label="Reading" words="Reading the photographs" />}
    </div>
  );
}

/** In the place of photographs that are not there yet. */
function Untested({ bench, onOpen }: { bench: RoundBench; onOpen: () => void }) {
  const { check } = bench;
  return (
    <Box sx={{ bgcolor: 'background.paper', maxWidth: 560 }}>
      <EmptyPlace title={check ? 'This round has no photographs yet.' : 'This setup has not been tested yet.'}>
        Drop an empty frame of the lit screen and a test frame here; ball, grey card and colour chart as well, if you
        have them. What a picture shows is recognised. What is wrong with the set is then named, with what to move and
        by how much, before the guests come.
        <Example show={['photograph']} words="a test frame, somebody where the guests will stand" />
        <Actions sx={{ pt: 1 }}>
          <Button variant="contained" color="primary" onClick={onOpen}>
            Choose photographs
          </Button>
          {!check && <Button onClick={() => void bench.begin()}>Begin a round</Button>}
        </Actions>
      </EmptyPlace>
    </Box>
  );
}
