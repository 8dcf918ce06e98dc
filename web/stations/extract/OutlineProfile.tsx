import { styled } from '@mui/material';
import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { recipeSettings, type Recipe } from '../../../core/cut/recipe.ts';
import { NumberField } from '../../shared/NumberField.tsx';
import { footOf, profileAt, REACH, softnessAt } from './outlineProfile.ts';

const { edge, softness } = recipeSettings;

const Profile = styled('div')`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 8px;
  align-items: baseline;
  & > svg {
    grid-column: 1 / -1;
    width: 100%;
    height: 92px;
    background: var(--paper);
    touch-action: none;
  }
  & .grip {
    cursor: ew-resize;
  }
  & .grip:focus-visible {
    outline: none;
  }
  & .grip:focus-visible > rect,
  & .grip:focus-visible > circle {
    stroke: var(--accent);
    stroke-width: 3;
  }
`;

const WIDTH = 240;
const HEIGHT = 92;
const TOP = 14;
const FOOT = 72;
const xOf = (pixels: number): number => (WIDTH * (pixels + REACH)) / (2 * REACH);
const yOf = (coverage: number): number => FOOT - (FOOT - TOP) * coverage;

/**
 * The person's outline in profile: how coverage falls from the person, left, to the screen, right. The square moves the
 * outline out or in, the circle at its foot makes it less steep.
 */
export function OutlineProfile({
  recipe,
  onChange,
  onCommit,
}: {
  recipe: Recipe;
  onChange: (recipe: Recipe) => void;
  onCommit: (recipe: Recipe, label: string) => void;
}) {
  const drawing = useRef<SVGSVGElement>(null);
  const moved = useRef<Recipe>(undefined);
  const put = {
    edge: (pixels: number): Recipe => ({ ...recipe, edge: hold(edge, pixels) }),
    softness: (pixels: number): Recipe => ({ ...recipe, softness: hold(softness, softnessAt(pixels, recipe.edge)) }),
  };
  const grip = (name: 'edge' | 'softness') => {
    const facts = recipeSettings[name];
    return {
      className: 'grip',
      role: 'slider',
      tabIndex: 0,
      'aria-label': facts.question,
      'aria-valuemin': facts.min,
      'aria-valuemax': facts.max,
      'aria-valuenow': recipe[name],
      'aria-valuetext': `${recipe[name]} ${facts.unit}`,
      onPointerDown: (event: PointerEvent<SVGGElement>) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        moved.current = recipe;
      },
      onPointerMove: (event: PointerEvent<SVGGElement>) => {
        if (!moved.current || !drawing.current) return;
        const box = drawing.current.getBoundingClientRect();
        moved.current = put[name]((2 * REACH * (event.clientX - box.left)) / box.width - REACH);
        onChange(moved.current);
      },
      onPointerUp: () => {
        if (moved.current && moved.current !== recipe) onCommit(moved.current, facts.label.toLowerCase());
        moved.current = undefined;
      },
      onKeyDown: (event: KeyboardEvent) => {
        const way = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
        if (!way) return;
        event.preventDefault();
        onCommit({ ...recipe, [name]: hold(facts, recipe[name] + way * facts.step) }, facts.label.toLowerCase());
      },
    };
  };
  const curve = Array.from({ length: 121 }, (_, n) => {
    const x = -REACH + (n * REACH) / 60;
    return `${xOf(x)},${yOf(profileAt(x, recipe.edge, recipe.softness))}`;
  }).join(' ');
  const foot = xOf(Math.min(REACH - 0.2, footOf(recipe.edge, recipe.softness)));
  return (
    <Profile role="group" aria-label="Outline">
      <strong style={{ gridColumn: '1 / -1' }}>Does the outline sit right?</strong>
      <svg ref={drawing} viewBox={`0 0 ${WIDTH} ${HEIGHT}`} preserveAspectRatio="none">
        <polygon points={`0,${FOOT} ${curve} ${WIDTH},${FOOT}`} fill="var(--hairline)" />
        <polyline points={curve} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
        <line x1={xOf(0)} x2={xOf(0)} y1={TOP - 6} y2={FOOT} stroke="var(--rule)" strokeDasharray="2 2" />
        {Array.from({ length: 2 * REACH + 1 }, (_, n) => (
          <line key={n} x1={xOf(n - REACH)} x2={xOf(n - REACH)} y1={FOOT} y2={FOOT + 4} stroke="var(--ink)" />
        ))}
        <text x={6} y={HEIGHT - 5} fontSize={10} fill="var(--pencil)">
          person
        </text>
        <text x={xOf(0)} y={HEIGHT - 5} fontSize={10} fill="var(--pencil)" textAnchor="middle">
          as found
        </text>
        <text x={WIDTH - 6} y={HEIGHT - 5} fontSize={10} fill="var(--pencil)" textAnchor="end">
          screen
        </text>
        <g {...grip('edge')}>
          <rect x={xOf(recipe.edge) - 5} y={yOf(0.5) - 5} width={10} height={10} fill="var(--ink)" stroke="#fff" />
        </g>
        <g {...grip('softness')}>
          <circle cx={foot} cy={FOOT} r={5.5} fill="#fff" stroke="var(--ink)" strokeWidth={1.5} />
        </g>
      </svg>
      {(['edge', 'softness'] as const).map((name) => (
        <NumberField
          key={name}
          {...recipeSettings[name]}
          value={recipe[name]}
          onChange={(value) => onCommit({ ...recipe, [name]: value }, recipeSettings[name].label.toLowerCase())}
        />
      ))}
    </Profile>
  );
}

function hold({ min, max, step }: { min: number; max: number; step: number }, value: number): number {
  return Math.max(min, Math.min(max, Number((Math.round(value / step) * step).toFixed(3))));
}
