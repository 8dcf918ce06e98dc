import { Slider, styled } from '@mui/material';
import { recipeSettings, type Recipe } from '../../../core/cut/recipe.ts';
import { NumberField } from '../../shared/NumberField.tsx';

const { floor, ceiling } = recipeSettings;
/** Steps of the wedge. */
const STEPS = 24;

const Scale = styled('div')`
  display: grid;
  grid-template-columns: auto 46px 1fr auto 46px;
  align-items: baseline;
  gap: 2px 8px;
  & > .wedge {
    grid-column: 1 / -1;
    display: block;
    width: 100%;
    height: 64px;
  }
  & > .MuiInput-root {
    width: 46px;
  }
  & > .MuiSlider-root {
    grid-column: 1 / -1;
    padding: 0;
    margin-top: -8px;
    height: 8px;
  }
  & .MuiSlider-rail {
    opacity: 0;
  }
  & .MuiSlider-track {
    opacity: 0;
  }
  & .MuiSlider-thumb {
    height: 22px;
    border: 1px solid #fff;
    box-sizing: content-box;
  }
`;

/**
 * What counts as gone and what as solid: one scale from none to full coverage in the grey steps of the wedge, over it
 * how this frame's coverage is spread, and two marks. Left of the first all is gone, right of the second all is solid.
 */
export function CoverageScale({
  recipe,
  coverage,
  onChange,
  onCommit,
}: {
  recipe: Recipe;
  /** Pixels in equal steps of coverage; nothing yet while the frame is being cut. */
  coverage: number[] | undefined;
  onChange: (recipe: Recipe) => void;
  onCommit: (recipe: Recipe, label: string) => void;
}) {
  const held = ([low, high]: number[]): Recipe => ({
    ...recipe,
    floor: Math.max(floor.min, Math.min(floor.max, low)),
    ceiling: Math.max(ceiling.min, Math.min(ceiling.max, high)),
  });
  const labelOf = (next: Recipe): string =>
    next.floor !== recipe.floor ? 'what counts as gone' : 'what counts as solid';
  const most = Math.max(1, ...(coverage ?? []));
  return (
    <Scale role="group" aria-label="What is gone, and what is solid?">
      <strong style={{ gridColumn: '1 / -1' }}>What is gone, and what is solid?</strong>
      <svg className="wedge" viewBox="0 0 240 64" preserveAspectRatio="none" aria-hidden="true">
        {Array.from({ length: STEPS }, (_, n) => {
          const level = Math.round((255 * n) / (STEPS - 1));
          return <rect key={n} x={10 * n} y={44} width={10.2} height={20} fill={`rgb(${level},${level},${level})`} />;
        })}
        <rect x={0} y={44} width={240 * recipe.floor} height={20} fill="#000" />
        <rect x={240 * recipe.ceiling} y={44} width={240 * (1 - recipe.ceiling)} height={20} fill="#fff" />
        {coverage?.map((count, n) => {
          const height = 42 * Math.sqrt(count / most);
          const at = (n + 0.5) / coverage.length;
          const between = at > recipe.floor && at < recipe.ceiling;
          return (
            <rect
              key={n}
              x={(240 * n) / coverage.length}
              y={43 - height}
              width={240 / coverage.length - 0.6}
              height={height}
              fill={between ? 'var(--ink)' : 'var(--rule)'}
            />
          );
        })}
        <line x1="0" x2="240" y1="43.5" y2="43.5" stroke="var(--ink)" strokeWidth="1" />
      </svg>
      <Slider
        min={0}
        max={1}
        step={floor.step}
        disableSwap
        value={[recipe.floor, recipe.ceiling]}
        marks={[{ value: floor.default }, { value: ceiling.default }]}
        getAriaLabel={(n) => (n ? ceiling.label : floor.label)}
        onChange={(_, value) => onChange(held(value as number[]))}
        onChangeCommitted={(_, value) => {
          const next = held(value as number[]);
          onCommit(next, labelOf(next));
        }}
      />
      <span className="quiet">gone up to</span>
      <NumberField
        {...floor}
        hideLabel
        value={recipe.floor}
        onChange={(value) => onCommit({ ...recipe, floor: value }, 'what counts as gone')}
      />
      <span />
      <span className="quiet">solid from</span>
      <NumberField
        {...ceiling}
        hideLabel
        value={recipe.ceiling}
        onChange={(value) => onCommit({ ...recipe, ceiling: value }, 'what counts as solid')}
      />
    </Scale>
  );
}
