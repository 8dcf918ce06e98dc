import { styled } from '@mui/material';

const STEPS = 24;

const Wedge = styled('div')`
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: 1fr;
  height: 12px;
  border: 1px solid var(--ink);
  background: var(--sheet);
  & i {
    border-right: 1px solid var(--hairline);
  }
  & i:last-child {
    border-right: 0;
  }
  @media (prefers-reduced-motion: no-preference) {
    & i.now {
      animation: now 1.2s steps(2) infinite;
    }
    @keyframes now {
      50% {
        opacity: 0.35;
      }
    }
  }
`;

/** Progress as a grey step wedge, dark to the left; the share and the words beside it say the same. */
export function StepWedge({ share, label }: { share: number; label: string }) {
  const filled = Math.floor(Math.max(0, Math.min(1, share)) * STEPS + 1e-6);
  return (
    <Wedge
      role="progressbar"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(share * 100)}
    >
      {Array.from({ length: STEPS }, (_, n) => {
        const level = 22 + (n / (STEPS - 1)) * 190;
        return (
          <i
            key={n}
            className={n === filled && share < 1 ? 'now' : undefined}
            style={
              n <= filled && (n < filled || share < 1) ? { background: `rgb(${level},${level},${level})` } : undefined
            }
          />
        );
      })}
    </Wedge>
  );
}
