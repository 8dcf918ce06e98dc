import DeleteIcon from '@mui/icons-material/DeleteOutlined';
import { Box, IconButton, Tooltip } from '@mui/material';
import {
  cutSettings,
  labelOf,
  recipeChoices,
  recipeSettings,
  type Recipe,
  type SettingName,
} from '../../../core/cut/recipe.ts';
import { Choice } from '../../shared/Choice.tsx';
import { NumberField } from '../../shared/NumberField.tsx';

interface Props {
  settings: Partial<Recipe>;
  /** What is cut with beside it: where a setting begins. */
  around: Recipe;
  onChange: (settings: Partial<Recipe>) => void;
}

/** The settings in which a drawn region differs from what is around it. */
export function RegionSettings({ settings, around, onChange }: Props) {
  const held = cutSettings.filter((name) => settings[name] !== undefined);
  const others = cutSettings.filter((name) => !held.includes(name));
  return (
    <Box role="group" aria-label="Settings in this region" sx={{ width: '100%', display: 'grid', gap: 0.25, pb: 0.5 }}>
      {held.map((name) => (
        <Box
          key={name}
          sx={{ display: 'grid', gridTemplateColumns: '1fr auto auto', alignItems: 'baseline', columnGap: 0.5 }}
        >
          <Setting name={name} settings={settings} onChange={onChange} />
          <Tooltip title="As around it">
            <IconButton
              aria-label={`${labelOf(name)}, as around it`}
              sx={{ p: 0.25 }}
              onClick={() => onChange(Object.fromEntries(Object.entries(settings).filter(([id]) => id !== name)))}
            >
              <DeleteIcon fontSize="small" />
            </IconButton>
          </Tooltip>
        </Box>
      ))}
      <Choice
        label={held.length ? 'Another setting' : 'Differs in'}
        value=""
        options={[{ value: '', title: 'choose' }, ...others.map((name) => ({ value: name, title: labelOf(name) }))]}
        onChange={(name) => name && onChange({ ...settings, [name]: around[name as keyof Recipe] })}
      />
    </Box>
  );
}

function Setting({ name, settings, onChange }: { name: keyof Recipe } & Omit<Props, 'around'>) {
  const set = (value: string | number): void => onChange({ ...settings, [name]: value });
  if (name === 'method' || name === 'spillMethod')
    return (
      <Box sx={{ gridColumn: '1 / 3' }}>
        <Choice
          label={labelOf(name)}
          value={settings[name] ?? ''}
          options={Object.entries(recipeChoices[name].options).map(([value, { title }]) => ({ value, title }))}
          onChange={set}
        />
      </Box>
    );
  const facts = recipeSettings[name satisfies SettingName];
  return <NumberField {...facts} value={settings[name] ?? facts.default} onChange={set} />;
}
