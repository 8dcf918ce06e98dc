import { Box, Button, TextField } from '@mui/material';
import { useState, type FormEvent } from 'react';

/** Asks for a folder on the machine that runs the server. @param help what becomes of it. */
export function FolderForm({
  help,
  action,
  onGiven,
}: {
  help: string;
  action: string;
  onGiven: (folder: string) => unknown;
}) {
  const [folder, setFolder] = useState('');
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    onGiven(folder.trim());
  };
  return (
    <Box component="form" sx={{ display: 'flex', gap: 1, alignItems: 'start' }} onSubmit={submit}>
      <TextField
        label="Folder on the machine that runs Silent Lawn"
        value={folder}
        fullWidth
        autoFocus
        helperText={help}
        onChange={(event) => setFolder(event.target.value)}
      />
      <Button type="submit" variant="contained" disabled={!folder.trim()}>
        {action}
      </Button>
    </Box>
  );
}
