import { Box, Slider, Tooltip } from '@mui/material';
import { lookFacts, lookSettings, type LookGroup, type LookSetting } from '../../../core/place/look.ts';
import { NumberField } from '../../shared/NumberField.tsx';
import type { LookBench } from './useLook.ts';

/** The settings of a group; a table's strength stands by the table. */
export function LookSettings({ group, look }: { group: LookGroup; look: LookBench }) {
  return (
    <div>
      {lookSettings
        .filter((name) => lookFacts[name].group === group && name !== 'lutStrength')
        .map((name) => (
          <SettingField key={name} name={name} look={look} />
        ))}
    </div>
  );
}

/** A slider that shows at once and a number to type. */
export function SettingField({ name, look }: { name: LookSetting; look: LookBench }) {
  const { label, min, max, step, unit, effect } = lookFacts[name];
  const value = look.look[name];
  // Shares are read in percent.
  const percent = unit === 'share';
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: 'minmax(0, 1fr) auto',
        alignItems: 'center',
        columnGap: 1.25,
        borderTop: 1,
        borderColor: 'divider',
        pt: 0.25,
      }}
    >
      <NumberField
        label={label}
        unit={percent ? '%' : unit}
        value={value}
        min={min}
        max={max}
        step={step}
        factor={percent ? 100 : 1}
        digits={percent ? 0 : 2}
        onChange={(next) => look.keep(name, next)}
      />
      <Tooltip title={effect} describeChild placement="left">
        <Slider
          aria-label={label}
          sx={{ gridColumn: '1 / -1' }}
          value={value}
          min={min}
          max={max}
          step={step}
          track={min < 0 ? false : 'normal'}
          onChange={(_, next) => look.try({ [name]: next })}
          onChangeCommitted={(_, next) => look.keep(name, next as number)}
        />
      </Tooltip>
    </Box>
  );
}
