const STEPS = 24;

/** Progress as a grey step wedge, dark to the left; the share and the words beside it say the same. */
export function StepWedge({ share, label }: { share: number; label: string }) {
  const filled = Math.floor(Math.max(0, Math.min(1, share)) * STEPS + 1e-6);
  return (
    <div
      className="wedge"
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
    </div>
  );
}
