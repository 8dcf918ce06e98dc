import { zodResolver } from '@hookform/resolvers/zod';
import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import DownloadIcon from '@mui/icons-material/DownloadOutlined';
import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  IconButton,
  TextField,
  Tooltip,
} from '@mui/material';
import { useEffect, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { recipeFileSchema, type LibraryEntry, type LibraryItem } from '../../../contract/index.ts';
import { sameRecipe, type Recipe } from '../../../core/cut/recipe.ts';
import { Changes } from '../../shared/Changes.tsx';
import { FileInput } from '../../shared/FileInput.tsx';
import { readJsonFile } from '../../shared/jsonFile.ts';
import { Problem } from '../../shared/Problem.tsx';
import { api } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';

type Kept = Extract<LibraryEntry, { kind: 'recipe' }>;
type KeptItem = LibraryItem & { item: Kept };

interface Props {
  open: boolean;
  /** The settings on the bench. */
  recipe: Recipe;
  onTake: (recipe: Recipe, label: string) => void;
  onClose: () => void;
}

/** Recipes under names of their own, for all shoots; as files they go elsewhere and come back. */
export function RecipesDialog({ open, recipe, onTake, onClose }: Props) {
  const { recipes, keep, remove } = useRecipes(open);
  const [refused, setRefused] = useState<string>();
  const read = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const found = readJsonFile(file.name, await file.text(), recipeFileSchema, {
      wanted: 'a recipe that was kept as a file here',
      whole: 'the recipe',
      again: 'bring it in',
    });
    setRefused('refused' in found ? found.refused : undefined);
    if ('value' in found) await keep(file.name.replace(/(\.recipe)?\.json$/i, ''), found.value);
  };
  const { getInputProps, open: choose } = useDropzone({
    multiple: false,
    noDrag: true,
    onDrop: ([file]) => void read(file),
  });
  return (
    <Dialog open={open} onClose={onClose} aria-labelledby="recipes" fullWidth maxWidth="xs">
      <DialogTitle id="recipes">Recipes</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5 }}>
        <KeepForm onKeep={(name) => keep(name, recipe)} />
        <Changes>
          {recipes.map(({ id, item: { entry } }) => (
            <li key={id}>
              <Button
                variant="text"
                disabled={sameRecipe(entry.recipe, recipe)}
                onClick={() => {
                  onTake(entry.recipe, `the recipe “${entry.name}”`);
                  onClose();
                }}
              >
                Take “{entry.name}”
              </Button>
              <span>
                <Tooltip title="As a file">
                  <IconButton
                    component="a"
                    aria-label={`${entry.name} as a file`}
                    href={`data:application/json,${encodeURIComponent(JSON.stringify(entry.recipe, null, 2))}`}
                    download={`${entry.name}.recipe.json`}
                  >
                    <DownloadIcon />
                  </IconButton>
                </Tooltip>
                <IconButton aria-label={`Remove ${entry.name}`} onClick={() => void remove(id)}>
                  <DeleteIcon />
                </IconButton>
              </span>
            </li>
          ))}
          {!recipes.length && <li className="quiet">None kept yet.</li>}
        </Changes>
        {refused && <Problem>{refused}</Problem>}
      </DialogContent>
      <DialogActions>
        <Button onClick={choose}>Bring one in</Button>
        <FileInput label="Recipe file" props={getInputProps} />
        <Button onClick={onClose}>Done</Button>
      </DialogActions>
    </Dialog>
  );
}

function useRecipes(open: boolean) {
  const [recipes, setRecipes] = useState<KeptItem[]>([]);
  const load = async (): Promise<void> => {
    const all = await attempt(api.library());
    if (all) setRecipes(all.filter((one): one is KeptItem => one.item.kind === 'recipe'));
  };
  useEffect(() => {
    if (open) void load();
  }, [open]);
  return {
    recipes,
    /** The same name takes the place of what was kept under it. */
    keep: async (name: string, recipe: Recipe): Promise<void> => {
      const item: Kept = { kind: 'recipe', entry: { name, recipe } };
      const same = recipes.find((kept) => kept.item.entry.name === name);
      await attempt(same ? api.changeLibrary(same.id, item) : api.addToLibrary(item));
      await load();
    },
    remove: (id: number): Promise<void> => attempt(api.removeFromLibrary(id)).then(load),
  };
}

const formSchema = z.object({ name: z.string().trim().min(1, 'Give it a name.').max(120) });

function KeepForm({ onKeep }: { onKeep: (name: string) => Promise<void> }) {
  const { register, handleSubmit, reset, getValues, formState } = useForm({
    resolver: zodResolver(formSchema),
    defaultValues: { name: '' },
  });
  const keep = async ({ name }: { name: string }): Promise<void> => {
    await onKeep(name);
    // The next name may have been begun meanwhile.
    if (getValues('name').trim() === name) reset();
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
        label="Keep the settings of this frame as"
        error={!!formState.errors.name}
        helperText={formState.errors.name?.message}
        {...register('name')}
      />
      <Button type="submit" sx={{ justifySelf: 'start' }}>
        Keep them
      </Button>
    </Box>
  );
}
