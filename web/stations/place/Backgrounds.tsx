import AddIcon from '@mui/icons-material/AddPhotoAlternateOutlined';
import PaintIcon from '@mui/icons-material/FormatPaintOutlined';
import { Box, Button, Chip, styled, TextField, ToggleButton } from '@mui/material';
import { useCallback, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import type { Background } from '../../../contract/index.ts';
import { FileInput } from '../../shared/FileInput.tsx';
import { Actions } from '../../shared/layout.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { api, pictures } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';
import { PaintDialog } from './PaintDialog.tsx';

const Swatches = styled('div')`
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 8px;
  align-items: start;
  & .MuiToggleButton-root {
    display: block;
    padding: 0 0 4px;
    text-align: left;
    border-bottom-width: 4px;
    line-height: 1.2;
    font-size: 12px;
    white-space: normal;
  }
  & img {
    width: 100%;
    height: 92px;
    object-fit: cover;
    display: block;
    background: var(--surround);
    margin-bottom: 3px;
  }
`;

/** The backgrounds to choose from, and more of them. */
export function Backgrounds({
  backgrounds,
  chosen,
  onChoose,
}: {
  backgrounds: Background[];
  chosen: number | undefined;
  onChoose: (background: Background) => void;
}) {
  const [refused, setRefused] = useState<string[]>([]);
  const [painting, setPainting] = useState(false);
  const [words, setWords] = useState('');
  const [tag, setTag] = useState<string>();
  const offered = backgrounds.filter(({ id, removed }) => !removed || id === chosen);
  const tags = [...new Set(offered.flatMap((background) => background.tags))].sort((a, b) => a.localeCompare(b));
  const found = offered.filter(
    (background) => fits(background, words) && (tag === undefined || background.tags.includes(tag)),
  );
  const searched = offered.length > FEW;
  const onDrop = useCallback((files: File[]) => {
    setRefused([]);
    const tell = (text: string): void => setRefused((list) => [...list, text]);
    for (const file of files)
      void attempt(api.uploadBackground(file, () => undefined)).then((result) => {
        if (result?.outcome === 'refused') tell(`${result.name}: ${result.reason}. ${result.remedy}`);
        if (result?.outcome === 'duplicate') tell(`${result.name} is already here as ${result.of}.`);
      });
  }, []);
  const { getRootProps, getInputProps, open } = useDropzone({ onDrop, noClick: true, noKeyboard: true });
  return (
    <section {...getRootProps()} role="region" aria-label="Backgrounds">
      <Box component="h2" sx={{ pb: 1 }}>
        Background
      </Box>
      <FileInput label="Background files" props={getInputProps} />
      {searched && (
        <Box sx={{ pb: 1, display: 'grid', gap: 0.75 }}>
          <TextField
            type="search"
            size="small"
            placeholder="Name or word"
            slotProps={{ htmlInput: { 'aria-label': 'Search backgrounds' } }}
            value={words}
            onChange={(event) => setWords(event.target.value)}
          />
          {tags.length > 0 && (
            <Box role="group" aria-label="Words" sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
              {tags.map((one) => (
                <Chip
                  key={one}
                  size="small"
                  label={one}
                  aria-pressed={one === tag}
                  color={one === tag ? 'primary' : 'default'}
                  onClick={() => setTag(one === tag ? undefined : one)}
                />
              ))}
            </Box>
          )}
        </Box>
      )}
      <Swatches>
        {found.map((background) => (
          <ToggleButton
            key={background.id}
            value={background.id}
            selected={background.id === chosen}
            onChange={() => onChoose(background)}
          >
            <img src={pictures.background(background, 'thumbnail')} alt="" />
            {background.name}
          </ToggleButton>
        ))}
      </Swatches>
      {!found.length && (
        <p className="quiet" role="status">
          {offered.length ? 'No background is called so or has this word.' : 'No backgrounds yet.'}
        </p>
      )}
      <Actions sx={{ mt: 1 }}>
        <Button variant="text" startIcon={<AddIcon />} onClick={open}>
          Add backgrounds
        </Button>
        <Button variant="text" startIcon={<PaintIcon />} onClick={() => setPainting(true)}>
          Paint one
        </Button>
      </Actions>
      {painting && (
        <PaintDialog
          onClose={() => setPainting(false)}
          onDone={async (wanted) => {
            const result = await attempt(api.paintBackground(wanted));
            if (!result) return;
            setPainting(false);
            if (result.outcome === 'duplicate') setRefused([`The very same is already here as ${result.of}.`]);
          }}
        />
      )}
      {refused.map((text) => (
        <Problem key={text}>{text}</Problem>
      ))}
    </section>
  );
}

/** So many are seen at once and need no search. */
const FEW = 6;

function fits({ name, tags }: Background, words: string): boolean {
  const text = [name, ...tags].join(' ').toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word));
}
