import { styled } from '@mui/material';
import type { ReactNode } from 'react';

/** The parts that sheets are laid out of; docs/design.md shows them. */

/** List, picture, questions: the bench of a station. */
export const Bench = styled('div')`
  display: grid;
  height: 100%;
  min-height: 0;
  grid-template-columns: 290px minmax(0, 1fr) 286px;
  @media (max-width: 1150px) {
    grid-template-columns: 220px minmax(0, 1fr) 250px;
  }
`;

/** The margin with the list; what stands in it keeps its distance, lists reach from edge to edge. */
export const ListMargin = styled('aside')`
  background: var(--sheet);
  border-right: 1px solid var(--hairline);
  padding-top: 12px;
  min-height: 0;
  overflow: auto;
  display: flex;
  flex-direction: column;
  & > * {
    padding-inline: 16px;
  }
  & > .MuiList-root {
    padding-inline: 0;
  }
`;

/** The margin with questions and readings. */
export const ReadingMargin = styled('aside')`
  background: var(--sheet);
  border-left: 1px solid var(--hairline);
  padding: 12px 16px;
  min-height: 0;
  overflow: auto;
`;

/** The picture on its mid-grey surround, with a strip above and a caption below. */
export const Plate = styled('section')`
  background: var(--surround);
  min-height: 0;
  min-width: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto minmax(0, 1fr) auto;
`;

export const Strip = styled('div')`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  min-height: 33px;
  background: var(--paper);
  border-bottom: 1px solid var(--hairline);
  padding: 0 12px;
`;

export const Caption = styled('div')`
  background: var(--paper);
  border-top: 1px solid var(--hairline);
  padding: 5px 14px;
  display: flex;
  gap: 9px;
  align-items: baseline;
  min-height: 29px;
  min-width: 0;
  overflow: hidden;
  & > * {
    white-space: nowrap;
    flex-shrink: 0;
  }
  & > span.quiet {
    flex-shrink: 1;
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

/** Words on the picture. */
export const NoteOver = styled('span')`
  position: absolute;
  left: 14px;
  bottom: 12px;
  background: var(--sheet);
  color: var(--ink);
  padding: 3px 9px;
  border-left: 3px solid var(--ink);
`;

/** A sheet of paper in the middle of the page. */
export const Sheet = styled('div')`
  max-width: 1000px;
  margin: 0 auto;
  padding: 26px 28px 40px;
  display: grid;
  gap: 20px;
`;

/** Things to press in a row. */
export const Actions = styled('div')`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: baseline;
`;

/** Names and values in two columns. */
export const Fields = styled('dl')`
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 4px 10px;
  align-items: baseline;
  & > dd {
    text-align: right;
  }
`;

export const Key = styled('kbd')`
  font-family: var(--figures);
  font-size: 11px;
  color: var(--pencil);
  border: 1px solid var(--rule);
  padding: 0 4px;
  margin-right: 4px;
`;

const Empty = styled('div')`
  padding: 30px 20px;
  color: var(--pencil);
  max-width: 62ch;
  display: grid;
  gap: 10px;
  & > strong {
    color: var(--ink);
    font-size: 15px;
  }
  & img {
    display: block;
    max-width: 100%;
    border: 1px solid var(--hairline);
  }
`;

/** What belongs in an empty place, and where to begin. */
export function EmptyPlace({ title, children }: { title: string; children: ReactNode }) {
  return (
    <Empty>
      <strong>{title}</strong>
      <div>{children}</div>
    </Empty>
  );
}
