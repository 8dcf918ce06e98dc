import { zodResolver } from '@hookform/resolvers/zod';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, IconButton, TextField } from '@mui/material';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { libraryEntrySchema, type LibraryEntry, type LibraryItem } from '../../../contract/index.ts';
import type { Plan } from '../../../core/plan/index.ts';
import { Changes } from '../../shared/Changes.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { api } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { entryOf } from './libraryEntry.ts';
import type { ThingId } from './things.ts';

interface Props {
  open: boolean;
  plan: Plan;
  chosen: ThingId;
  library: LibraryItem[];
  onClose: () => void;
  onChanged: () => void;
}

/** Keeps the chosen lamp, camera or material under a name of one's own, and lists what was kept. */
export function LibraryDialog({ open, plan, chosen, library, onClose, onChanged }: Props) {
  const draft = entryOf(plan, chosen);
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="library" fullWidth maxWidth="xs">
      <DialogTitle id="library">Library of your own</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5 }}>
        {draft && open && <KeepForm draft={draft} library={library} onChanged={onChanged} />}
        <Changes>
          {library.map(({ id, item }) => (
            <li key={id}>
              <span>{item.entry.name}</span>
              <span className="quiet">{item.kind}</span>
              <IconButton
                aria-label={`Remove ${item.entry.name} from the library`}
                onClick={() => void attempt(api.removeFromLibrary(id)).then(onChanged)}
              >
                <DeleteIcon />
              </IconButton>
            </li>
          ))}
          {!library.length && <li className="quiet">Nothing kept yet. What comes with Silent Lawn is always there.</li>}
        </Changes>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>Done</Button>
      </DialogActions>
    </Dialog>
  );
}

/** What a material costs and needs, beside what the plan says of it. */
const costFields = {
  price: 'Price of a square metre',
  uses: 'Lasts for shoots',
  mass: 'kg of a square metre',
  setUp: 'Minutes to set up',
  widest: 'Widest without a seam, m',
} as const;

const typedNumber = z.string().regex(/^\s*\d+([.,]\d+)?\s*$/, 'Give a number.');
const formSchema = z.object({
  name: z.string().trim().min(1, 'Give it a name.').max(120),
  costs: z.record(z.string(), typedNumber),
});

function KeepForm({
  draft,
  library,
  onChanged,
}: {
  draft: LibraryEntry;
  library: LibraryItem[];
  onChanged: () => void;
}) {
  const costs: Record<string, string> =
    draft.kind === 'material'
      ? Object.fromEntries(
          (Object.keys(costFields) as (keyof typeof costFields)[]).map((name) => [name, String(draft.entry[name])]),
        )
      : {};
  const { register, handleSubmit, reset, setError, formState } = useForm({
    resolver: zodResolver(formSchema),
    defaultValues: { name: '', costs },
  });
  const { errors } = formState;
  const keep = async ({ name, costs: typed }: z.output<typeof formSchema>): Promise<void> => {
    const numbers = Object.fromEntries(
      Object.entries(typed).map(([field, text]) => [field, Number(text.replace(',', '.'))]),
    );
    const item = libraryEntrySchema.safeParse({ ...draft, entry: { ...draft.entry, ...numbers, name } });
    if (!item.success) return setError('root', { message: item.error.issues[0].message });
    const same = library.find(
      (kept) => kept.item.kind === item.data.kind && kept.item.entry.name === item.data.entry.name,
    );
    if (!(await attempt(same ? api.changeLibrary(same.id, item.data) : api.addToLibrary(item.data)))) return;
    reset();
    onChanged();
  };
  return (
    <Box
      component="form"
      noValidate
      sx={{ display: 'grid', gap: 1 }}
      onSubmit={(event) => void handleSubmit(keep)(event)}
    >
      <TextField
        autoFocus
        label={`Keep the chosen ${draft.kind} as`}
        error={!!errors.name}
        helperText={errors.name?.message}
        {...register('name')}
      />
      {Object.keys(costs).map((name) => (
        <TextField
          key={name}
          label={costFields[name as keyof typeof costFields]}
          error={!!errors.costs?.[name]}
          helperText={errors.costs?.[name]?.message}
          slotProps={{ htmlInput: { inputMode: 'decimal' } }}
          {...register(`costs.${name}`)}
        />
      ))}
      {errors.root && <Problem>{errors.root.message}</Problem>}
      <Button type="submit" sx={{ justifySelf: 'start' }}>
        Keep it
      </Button>
    </Box>
  );
}
