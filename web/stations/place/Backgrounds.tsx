import AddIcon from '@mui/icons-material/AddPhotoAlternateOutlined';
import { Box, Button, styled, ToggleButton } from '@mui/material';
import { useCallback, useState } from 'react';
import { useDropzone } from 'react-dropzone';
import type { Background } from '../../../contract/index.ts';
import { FileInput } from '../../shared/FileInput.tsx';
import { Problem } from '../../shared/Problem.tsx';
import { api, pictures } from '../../state/api.ts';
import { attempt } from '../../state/store.ts';

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
    <section {...getRootProps()} aria-label="Backgrounds">
      <Box component="h2" sx={{ pb: 1 }}>
        Background
      </Box>
      <FileInput label="Background files" props={getInputProps} />
      <Swatches>
        {backgrounds.map((background) => (
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
      <Button variant="text" startIcon={<AddIcon />} sx={{ mt: 1 }} onClick={open}>
        Add backgrounds
      </Button>
      {refused.map((text) => (
        <Problem key={text}>{text}</Problem>
      ))}
    </section>
  );
}
