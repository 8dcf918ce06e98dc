import { FormLabel, NativeSelect, styled } from '@mui/material';
import { useId } from 'react';

const Row = styled('div')`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 8px;
  align-items: baseline;
  & > .MuiInput-root {
    justify-self: end;
    max-width: 100%;
  }
`;

/** One of several, by a list to choose from. @param label shown before it; `aria` names it where nothing is shown. */
export function Choice({
  label,
  aria,
  value,
  options,
  onChange,
  inverse,
}: {
  label?: string;
  aria?: string;
  value: string;
  options: readonly { value: string; title: string }[];
  onChange: (value: string) => void;
  /** White on the surround of a picture. */
  inverse?: boolean;
}) {
  const id = useId();
  const select = (
    <NativeSelect
      value={value}
      inputProps={{ id, 'aria-label': aria }}
      onChange={(event) => onChange(event.target.value)}
      sx={
        inverse
          ? {
              color: '#fff',
              '& .MuiNativeSelect-icon': { color: '#fff' },
              '&::before': { borderBottomColor: '#fff' },
              '& option': { color: '#161616' },
            }
          : undefined
      }
    >
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.title}
        </option>
      ))}
    </NativeSelect>
  );
  if (!label) return select;
  return (
    <Row>
      <FormLabel htmlFor={id}>{label}</FormLabel>
      {select}
    </Row>
  );
}
