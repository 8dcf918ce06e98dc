import { Tab, Tabs } from '@mui/material';
import type { ReactNode } from 'react';

/** Panels of a margin behind tabs. @param figures what a panel holds, beside its name. */
export function PanelTabs<P extends string>({
  label,
  panels,
  value,
  figures = {},
  onChange,
}: {
  label: string;
  panels: Record<P, string>;
  value: P;
  figures?: Partial<Record<P, ReactNode>>;
  onChange: (panel: P) => void;
}) {
  return (
    <Tabs
      aria-label={label}
      value={value}
      variant="scrollable"
      scrollButtons={false}
      onChange={(_, next: P) => onChange(next)}
      sx={{ mx: -2, mb: 1, bgcolor: 'background.default' }}
    >
      {(Object.keys(panels) as P[]).map((id) => (
        <Tab
          key={id}
          value={id}
          id={`tab-${id}`}
          aria-controls={`panel-${id}`}
          label={
            <span>
              {panels[id]} {figures[id] !== undefined && <span className="figure quiet">{figures[id]}</span>}
            </span>
          }
        />
      ))}
    </Tabs>
  );
}

/** What belongs to the chosen tab. */
export function Panel({ id, children }: { id: string; children: ReactNode }) {
  return (
    <div role="tabpanel" id={`panel-${id}`} aria-labelledby={`tab-${id}`}>
      {children}
    </div>
  );
}
