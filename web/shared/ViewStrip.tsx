import { styled, ToggleButton, ToggleButtonGroup, Tooltip } from '@mui/material';

export interface ViewChoice<V extends string> {
  value: V;
  title: string;
  /** The key that chooses it. */
  keyName?: string;
  /** A tone of the printed chart, shown as a patch beside its name. */
  patch?: string;
  /** Why it cannot be chosen. */
  why?: string;
}

const Patch = styled('i')`
  display: inline-block;
  width: 15px;
  height: 15px;
  margin-right: 6px;
  border: 1px solid var(--ink);
  flex: none;
`;

/**
 * The ways to look at a picture, side by side; those that are tones stand as patches of the printed chart with their
 * names.
 */
export function ViewStrip<V extends string>({
  label,
  views,
  value,
  onChange,
}: {
  label: string;
  views: readonly ViewChoice<V>[];
  value: V | undefined;
  onChange: (value: V) => void;
}) {
  return (
    <ToggleButtonGroup
      exclusive
      aria-label={label}
      value={value ?? null}
      onChange={(_, next: V | null) => next !== null && onChange(next)}
      sx={{ flexWrap: 'wrap' }}
    >
      {views.map(({ value: v, title, keyName, patch, why }) => (
        <ToggleButton key={v} value={v} disabled={why !== undefined} aria-keyshortcuts={keyName}>
          <Tooltip title={why ?? (keyName ? `Key ${keyName}` : '')} describeChild>
            <span style={{ display: 'inline-flex', alignItems: 'center' }}>
              {patch && <Patch style={{ background: patch }} />}
              {title}
            </span>
          </Tooltip>
        </ToggleButton>
      ))}
    </ToggleButtonGroup>
  );
}
