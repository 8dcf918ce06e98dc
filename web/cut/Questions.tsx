import { Button, Slider, Tooltip } from '@mui/material';
import { defaultRecipe, recipeSettings, type Recipe } from '../../core/cut/recipe.ts';

const names = Object.keys(recipeSettings) as (keyof Recipe)[];

/** The craft's questions, each with the one setting that answers it. `onChange` follows the slider, `onCommit` its release. */
export function Questions({ recipe, onChange, onCommit }: { recipe: Recipe; onChange: (recipe: Recipe) => void; onCommit: (recipe: Recipe, name: keyof Recipe) => void }) {
  return (
    <div>
      {names.map((name) => {
        const facts = recipeSettings[name];
        const set = (value: number): Recipe => ({ ...recipe, [name]: value });
        return (
          <div className="question" key={name}>
            <div className="ask">
              <Tooltip title={facts.effect} placement="left">
                <strong>{facts.question}</strong>
              </Tooltip>
              <NumberField
                {...facts}
                value={recipe[name]}
                onCommit={(value) => {
                  onChange(set(value));
                  onCommit(set(value), name);
                }}
              />
            </div>
            <div className="label">
              <span>{facts.label}</span>
              <span>{facts.unit}</span>
            </div>
            <Slider
              aria-label={facts.question}
              min={facts.min}
              max={facts.max}
              step={facts.step}
              value={recipe[name]}
              marks={[{ value: facts.default }]}
              onChange={(_, value) => onChange(set(value as number))}
              onChangeCommitted={(_, value) => onCommit(set(value as number), name)}
            />
          </div>
        );
      })}
      <Button
        variant="text"
        disabled={names.every((name) => recipe[name] === defaultRecipe[name])}
        onClick={() => {
          onChange(defaultRecipe);
          onCommit(defaultRecipe, 'floor');
        }}
      >
        Back to the marks
      </Button>
    </div>
  );
}

function NumberField({ label, value, min, max, step, onCommit }: { label: string; value: number; min: number; max: number; step: number; onCommit: (value: number) => void }) {
  return (
    <input
      key={value}
      type="number"
      aria-label={label}
      defaultValue={Number(value.toFixed(3))}
      min={min}
      max={max}
      step={step}
      onBlur={(event) => {
        const typed = Number(event.target.value);
        if (event.target.value !== '' && Number.isFinite(typed) && typed !== value) onCommit(Math.max(min, Math.min(max, typed)));
      }}
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}
