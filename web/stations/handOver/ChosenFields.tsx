import { Autocomplete, Box, TextField } from '@mui/material';
import type { Candidate, Chosen } from '../../../core/handOver/index.ts';
import { Choice } from '../../shared/Choice.tsx';

interface Named {
  id: number;
  name: string;
}

/** Whose pictures are handed over. */
export function ChosenFields({
  chosen,
  candidates,
  onChange,
}: {
  chosen: Chosen;
  candidates: readonly Candidate[];
  onChange: (chosen: Chosen) => void;
}) {
  const setups = distinct(candidates.map(({ setup }) => setup));
  const backgrounds = distinct(candidates.flatMap(({ background }) => background ?? []));
  const subjects = [...new Set(candidates.map(({ subject }) => subject))].filter(Boolean).sort();
  const set = (part: Partial<Chosen>): void => onChange({ ...chosen, ...part });
  const many = (label: string, all: Named[], value: number[] | null, take: (ids: number[] | null) => void) =>
    all.length > 1 && (
      <Autocomplete
        multiple
        size="small"
        options={all}
        getOptionLabel={({ name }) => name}
        getOptionKey={({ id }) => id}
        isOptionEqualToValue={(a, b) => a.id === b.id}
        value={all.filter(({ id }) => value?.includes(id))}
        onChange={(_, list) => take(list.length ? list.map(({ id }) => id) : null)}
        renderInput={(params) => <TextField {...params} label={label} placeholder={value ? '' : 'all'} />}
      />
    );
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Choice
        label="Pictures"
        value={chosen.picks}
        options={[
          { value: 'all', title: 'all but the dropped' },
          { value: 'keep', title: 'only those that are kept' },
        ]}
        onChange={(picks) => set({ picks: picks as Chosen['picks'] })}
      />
      {subjects.length > 0 && (
        <Autocomplete
          multiple
          size="small"
          limitTags={3}
          options={subjects}
          value={chosen.subjects ?? []}
          onChange={(_, list) => set({ subjects: list.length ? list : null })}
          renderInput={(params) => (
            <TextField {...params} label="Subjects" placeholder={chosen.subjects ? '' : 'all'} />
          )}
        />
      )}
      {many('Setups', setups, chosen.setups, (ids) => set({ setups: ids }))}
      {many('Backgrounds', backgrounds, chosen.backgrounds, (ids) => set({ backgrounds: ids }))}
    </Box>
  );
}

function distinct(list: readonly Named[]): Named[] {
  return [...new Map(list.map((one) => [one.id, one])).values()];
}
