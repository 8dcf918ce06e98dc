import { Input } from '@mui/material';

/** A name that stands as a heading and is changed where it stands; an empty one is put back. */
export function NameField({
  label,
  name,
  onChange,
  size = 17,
}: {
  label: string;
  name: string;
  onChange: (name: string) => void;
  /** Of the type, pixels. */
  size?: number;
}) {
  return (
    <Input
      key={name}
      defaultValue={name}
      inputProps={{
        'aria-label': label,
        maxLength: 120,
        style: { fontSize: size, fontWeight: 640, fieldSizing: 'content', minWidth: '8ch' } as object,
      }}
      sx={{ minWidth: 0, maxWidth: '100%', '&::before': { borderBottomColor: 'transparent' } }}
      onBlur={(event) => {
        const typed = event.target.value.trim();
        if (typed && typed !== name) onChange(typed);
        else event.target.value = name;
      }}
      onKeyDown={(event) => event.key === 'Enter' && (event.target as HTMLInputElement).blur()}
    />
  );
}
