import { Box, Button, Chip, TextField } from '@mui/material';
import { useRef } from 'react';
import {
  LONGEST_PATTERN,
  nameTokens,
  offeredPatterns,
  type NameToken,
  type PlannedFile,
} from '../../../core/handOver/index.ts';

const tokens = Object.keys(nameTokens) as NameToken[];

/** The pattern of file names, put together from tokens, with the names that it gives. */
export function NamesField({
  names,
  flaw,
  planned,
  onChange,
}: {
  names: string;
  flaw: string | undefined;
  planned: readonly PlannedFile[];
  onChange: (names: string) => void;
}) {
  const field = useRef<HTMLInputElement>(null);
  const insert = (token: NameToken): void => {
    const at = field.current?.selectionStart ?? names.length;
    onChange(`${names.slice(0, at)}{${token}}${names.slice(field.current?.selectionEnd ?? at)}`);
    field.current?.focus();
  };
  const shown = [...planned.slice(0, 2), ...(planned.length > 2 ? [planned[planned.length - 1]] : [])];
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <TextField
        label="Pattern"
        value={names}
        inputRef={field}
        error={flaw !== undefined}
        helperText={flaw ? `It cannot be used: ${flaw}.` : 'What stands before a “/” is a folder.'}
        slotProps={{ htmlInput: { maxLength: LONGEST_PATTERN, spellCheck: false, className: 'figure' } }}
        onChange={(event) => onChange(event.target.value)}
      />
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 0.5 }}>
        {tokens.map((token) => (
          <Chip
            key={token}
            size="small"
            variant="outlined"
            sx={{ borderRadius: 0 }}
            label={token}
            title={nameTokens[token]}
            aria-label={`Put in ${nameTokens[token]}`}
            onClick={() => insert(token)}
          />
        ))}
      </Box>
      {!flaw && shown.length > 0 && (
        <Box
          component="ul"
          aria-label="Names as they will be"
          className="figure"
          sx={{ listStyle: 'none', fontSize: 12 }}
        >
          {shown.map(({ name }) => (
            <li key={name} style={{ overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
              {name}
            </li>
          ))}
        </Box>
      )}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', columnGap: 1 }}>
        {offeredPatterns
          .filter((one) => one !== names)
          .map((one) => (
            <Button key={one} size="small" variant="text" className="figure" onClick={() => onChange(one)}>
              {one}
            </Button>
          ))}
      </Box>
    </Box>
  );
}
