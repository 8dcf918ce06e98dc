import { styled } from '@mui/material';
import type { Frame } from '../../../contract/index.ts';
import { pictures } from '../../state/api.ts';

/** How proposals are listed: what is meant, its pictures, why, and the press that takes it. */

export const Rows = styled('ul')`
  list-style: none;
  border-top: 1px solid var(--ink);
  & > li {
    display: grid;
    grid-template-columns: 200px minmax(0, 1fr) 250px minmax(220px, auto);
    gap: 14px;
    align-items: center;
    padding: 5px 0;
    border-bottom: 1px solid var(--hairline);
    content-visibility: auto;
    contain-intrinsic-height: 66px;
  }
`;

const Thumbs = styled('div')`
  display: flex;
  gap: 4px;
  overflow: hidden;
  & img {
    height: 54px;
    display: block;
  }
`;

/** Pictures shown of a group. */
const SHOWN = 7;
/** The first pictures of a group. */
export function Thumbnails({ ids, frames }: { ids: readonly number[]; frames: readonly Frame[] }) {
  const shown = ids.slice(0, SHOWN).flatMap((id) => frames.find((frame) => frame.id === id) ?? []);
  return (
    <Thumbs>
      {shown.map((frame) => (
        <img key={frame.id} src={pictures.thumbnail(frame)} alt={frame.name} loading="lazy" />
      ))}
      {ids.length > SHOWN && <span className="quiet figure">+{ids.length - SHOWN}</span>}
    </Thumbs>
  );
}
