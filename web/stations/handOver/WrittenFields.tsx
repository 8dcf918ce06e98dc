import {
  Accordion,
  AccordionDetails,
  AccordionSummary,
  Checkbox,
  FormControlLabel,
  FormGroup,
  TextField,
} from '@mui/material';
import ExpandMoreIcon from '@mui/icons-material/ExpandMore';
import { metadataFields, type Metadata, type Papers } from '../../../core/handOver/index.ts';

const textFields = Object.keys(metadataFields) as (keyof typeof metadataFields)[];

/** What is written into the files beside the pictures; what is not here is not in them. */
export function WrittenFields({ metadata, onChange }: { metadata: Metadata; onChange: (metadata: Metadata) => void }) {
  const written = [
    ...textFields.filter((name) => metadata[name]).map((name) => metadataFields[name].label.toLowerCase()),
    ...(metadata.persons ? ['person shown'] : []),
    ...(metadata.taken ? ['when it was taken'] : []),
  ];
  return (
    <Accordion disableGutters>
      <AccordionSummary expandIcon={<ExpandMoreIcon />}>
        <span>
          Written into the files{' '}
          <span className="quiet">
            {written.length ? written.join(', ') : 'nothing'}; nothing else goes out with them
          </span>
        </span>
      </AccordionSummary>
      <AccordionDetails sx={{ display: 'grid', gap: 1.25 }}>
        {textFields.map((name) => (
          <TextField
            key={name}
            label={metadataFields[name].label}
            value={metadata[name]}
            slotProps={{ htmlInput: { maxLength: metadataFields[name].most } }}
            onChange={(event) => onChange({ ...metadata, [name]: event.target.value })}
          />
        ))}
        <FormGroup>
          <FormControlLabel
            control={
              <Checkbox checked={metadata.persons} onChange={(_, persons) => onChange({ ...metadata, persons })} />
            }
            label="Who is shown, where all on the picture said yes"
          />
          <FormControlLabel
            control={<Checkbox checked={metadata.taken} onChange={(_, taken) => onChange({ ...metadata, taken })} />}
            label="When it was taken"
          />
        </FormGroup>
        <p className="quiet">The title takes the words in braces that names take, such as {'{shoot}'}.</p>
      </AccordionDetails>
    </Accordion>
  );
}

const paperTitles: Record<keyof Papers, string> = {
  contact: 'A contact sheet of all pictures, PDF',
  slips: 'An order slip for each subject, PDF',
  proof: 'Pages to look at and choose from, without a network',
};

/** What is made beside the pictures. */
export function PapersFields({ papers, onChange }: { papers: Papers; onChange: (papers: Papers) => void }) {
  return (
    <FormGroup>
      {(Object.keys(paperTitles) as (keyof Papers)[]).map((name) => (
        <FormControlLabel
          key={name}
          control={<Checkbox checked={papers[name]} onChange={(_, on) => onChange({ ...papers, [name]: on })} />}
          label={paperTitles[name]}
        />
      ))}
    </FormGroup>
  );
}
