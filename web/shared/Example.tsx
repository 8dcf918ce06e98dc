import { styled } from '@mui/material';
import { useEffect } from 'react';
import { pictures } from '../state/api.ts';
import { loadShoots, useStore } from '../state/store.ts';

const Pictures = styled('figure')`
  margin-top: 12px;
  & > div {
    display: flex;
    gap: 8px;
    background: var(--surround);
    padding: 8px;
    width: max-content;
    min-height: 176px;
  }
  & img {
    height: 160px;
    width: auto;
    border: 0;
  }
`;

/**
 * A picture of the sample shoot as an example of what belongs in an empty place; nothing where the sample was removed.
 */
export function Example({ show, words }: { show: ('photograph' | 'cut')[]; words: string }) {
  const sample = useStore((state) => state.shoots?.find((shoot) => shoot.sample && shoot.removedAt === null));
  const known = useStore((state) => state.shoots !== null);
  useEffect(() => {
    if (!known) void loadShoots();
  }, [known]);
  const frame = sample?.strip.find(({ cut }) => cut !== null);
  if (!frame) return null;
  return (
    <Pictures>
      <div>
        {show.map((what) => (
          <img
            key={what}
            src={what === 'cut' ? pictures.latestThumbnail(frame) : pictures.thumbnail(frame)}
            alt={what === 'cut' ? 'The same person without the screen' : 'A person before a green screen'}
          />
        ))}
      </div>
      <figcaption className="quiet">From the sample shoot: {words}</figcaption>
    </Pictures>
  );
}
