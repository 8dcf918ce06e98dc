import { List, ListItem, ListItemButton, styled } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactNode } from 'react';
import type { Frame } from '../../contract/index.ts';
import { pictures } from '../state/api.ts';

/** Height of a row, pixels. */
const ROW = 63;

const Rows = styled(List)`
  position: relative;
  overflow: auto;
  flex: 1;
  min-height: 120px;
  border-top: 1px solid var(--hairline);
  & > li:not([aria-hidden]) {
    position: absolute;
    top: 0;
    left: 0;
    width: 100%;
  }
  & .MuiListItemButton-root {
    display: grid;
    grid-template-columns: 40px 1fr auto;
    height: ${ROW}px;
    border-bottom: 1px solid var(--hairline);
  }
  & img {
    width: 40px;
    height: 54px;
    object-fit: cover;
    background: var(--surround);
    display: block;
  }
  & .name {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  & small {
    display: block;
    overflow: hidden;
    text-overflow: ellipsis;
    color: var(--pencil);
    font-size: 12px;
    line-height: 1.25;
  }
`;

/** Frames as the rows of a printed table; only those in sight are drawn, and the current one stays in view. */
export function FrameRows({
  frames,
  current,
  onChoose,
  note,
  figure,
}: {
  frames: Frame[];
  current: number | undefined;
  onChoose: (id: number) => void;
  note: (frame: Frame) => ReactNode;
  figure: (frame: Frame) => ReactNode;
}) {
  const list = useRef<HTMLUListElement>(null);
  const rows = useVirtualizer({
    count: frames.length,
    getScrollElement: () => list.current,
    estimateSize: () => ROW,
    overscan: 6,
    getItemKey: (n) => frames[n].id,
  });
  const at = frames.findIndex((frame) => frame.id === current);
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at, { align: 'auto' });
  }, [rows, at]);
  return (
    <Rows ref={list} aria-label="Frames">
      <li aria-hidden style={{ height: rows.getTotalSize() }} />
      {rows.getVirtualItems().map(({ index, key, start }) => {
        const frame = frames[index];
        return (
          <ListItem
            key={key}
            disablePadding
            aria-setsize={frames.length}
            aria-posinset={index + 1}
            style={{ transform: `translateY(${start}px)` }}
          >
            <ListItemButton
              component="button"
              selected={frame.id === current}
              aria-current={frame.id === current}
              onClick={() => onChoose(frame.id)}
            >
              <img src={pictures.latestThumbnail(frame)} alt="" loading="lazy" />
              <span className="name">
                {frame.name}
                <small>{note(frame)}</small>
              </span>
              <span className="figure">{figure(frame)}</span>
            </ListItemButton>
          </ListItem>
        );
      })}
    </Rows>
  );
}
