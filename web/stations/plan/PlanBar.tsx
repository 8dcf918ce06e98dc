import AddIcon from '@mui/icons-material/Add';
import CopyIcon from '@mui/icons-material/ContentCopy';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import DownloadIcon from '@mui/icons-material/DownloadOutlined';
import UploadIcon from '@mui/icons-material/UploadOutlined';
import { Button, IconButton, styled, Tooltip } from '@mui/material';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link, useNavigate } from 'react-router';
import { planSchema, type PlanRow } from '../../../contract/index.ts';
import { startingPlan, type Plan, type Units } from '../../../core/plan/index.ts';
import { ask } from '../../shared/ask.tsx';
import { FileInput } from '../../shared/FileInput.tsx';
import { Choice } from '../../shared/Choice.tsx';
import { readJsonFile } from '../../shared/jsonFile.ts';
import { Strip } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { ViewStrip } from '../../shared/ViewStrip.tsx';
import { api, pictures } from '../../state/api.ts';
import { attempt, useStore } from '../../state/store.ts';
import { useUnits } from './useUnits.ts';

const Right = styled('span')`
  margin-left: auto;
  display: flex;
  align-items: center;
  gap: 6px;
  flex: none;
  & .MuiNativeSelect-select {
    max-width: 150px;
  }
`;

/** The planned sets of a shoot, and what can be done with the chosen one. */
export function PlanBar({
  shootId,
  date,
  rows,
  row,
  onChoose,
}: {
  shootId: number;
  date: string;
  rows: PlanRow[];
  row: PlanRow | undefined;
  onChoose: (id: number) => void;
}) {
  const { units, setUnits } = useUnits();
  const [refused, setRefused] = useState<string>();
  const create = async (plan: Plan): Promise<void> => {
    const made = await attempt(api.createPlan(shootId, plan));
    if (made) onChoose(made.id);
  };
  const read = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const read = readJsonFile(file.name, await file.text(), planSchema, {
      wanted: 'a plan that was exported here',
      whole: 'the plan',
      again: 'import it',
    });
    setRefused('refused' in read ? read.refused : undefined);
    if ('value' in read) await create(read.value);
  };
  const { getInputProps, open } = useDropzone({
    multiple: false,
    noDrag: true,
    onDrop: ([file]) => void read(file),
  });
  return (
    <div>
      <Strip sx={{ overflowX: 'auto' }}>
        <ViewStrip
          label="Plans"
          views={rows.map((r) => ({ value: String(r.id), title: r.plan.name }))}
          value={row && String(row.id)}
          onChange={(id) => onChoose(Number(id))}
        />
        <Button
          variant="text"
          startIcon={<AddIcon />}
          sx={{ flex: 'none' }}
          onClick={() => void create(startingPlan('New plan', date))}
        >
          New plan
        </Button>
        <Right>
          {row && <Chosen row={row} rows={rows} onCopy={(plan) => void create(plan)} />}
          <Tooltip title="Import a plan">
            <IconButton aria-label="Import" onClick={open}>
              <UploadIcon />
            </IconButton>
          </Tooltip>
          <FileInput label="Plan file" props={getInputProps} />
          <Choice
            aria="Units"
            value={units}
            options={[
              { value: 'metric', title: 'metres' },
              { value: 'imperial', title: 'feet' },
            ]}
            onChange={(chosen) => setUnits(chosen as Units)}
          />
        </Right>
      </Strip>
      {refused && <Problem>{refused}</Problem>}
    </div>
  );
}

function Chosen({ row, rows, onCopy }: { row: PlanRow; rows: PlanRow[]; onCopy: (plan: Plan) => void }) {
  const navigate = useNavigate();
  const setups = useStore((state) => state.setups);
  const remove = async (): Promise<void> => {
    const { name } = row.plan;
    const sure = await ask({
      title: `Remove the plan “${name}”?`,
      text: 'Frames and rounds stay.',
      action: 'Remove it',
    });
    if (sure) await attempt(api.removePlan(row.id)).then(() => navigate('.', { replace: true }));
  };
  return (
    <>
      <span className="quiet">Built as</span>
      <Choice
        aria="Built as"
        value={String(row.setupId ?? '')}
        options={[
          { value: '', title: 'no setup yet' },
          ...setups.map((setup) => ({ value: String(setup.id), title: setup.name })),
        ]}
        onChange={(id) => void attempt(api.changePlan(row.id, { setupId: Number(id) || null }))}
      />
      {rows.length > 1 && (
        <Button variant="text" component={Link} to={`compare?a=${row.id}&b=${rows.find((r) => r.id !== row.id)?.id}`}>
          Compare
        </Button>
      )}
      <Button variant="text" component={Link} to={`${row.id}/sheet`}>
        Set sheet
      </Button>
      <Tooltip title="Copy">
        <IconButton
          aria-label="Copy"
          onClick={() => onCopy({ ...row.plan, name: `${row.plan.name.slice(0, 110)}, copy` })}
        >
          <CopyIcon />
        </IconButton>
      </Tooltip>
      <Tooltip title="Export">
        <IconButton aria-label="Export" component="a" href={pictures.planFile(row.id, 'plan.json')} download>
          <DownloadIcon />
        </IconButton>
      </Tooltip>
      <Tooltip title="Remove the plan">
        <IconButton aria-label="Remove the plan" onClick={() => void remove()}>
          <DeleteIcon />
        </IconButton>
      </Tooltip>
    </>
  );
}
