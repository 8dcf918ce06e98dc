import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactNode } from 'react';
import type { Frame } from '../../contract/index.ts';
import { pictures } from '../state/api.ts';
import { isTyping } from './keys.ts';

/** Height of a row in pixels, as the style sheet has it. */
const ROW = 63;

/** Frames as the rows of a printed table; only those in sight are drawn. Arrow keys walk through them; the current one stays in view. */
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
    <ul className="rows" ref={list} aria-label="Frames">
      <li aria-hidden style={{ height: rows.getTotalSize() }} />
      {rows.getVirtualItems().map(({ index, key, start }) => {
        const frame = frames[index];
        return (
          <li
            key={key}
            aria-setsize={frames.length}
            aria-posinset={index + 1}
            style={{ transform: `translateY(${start}px)` }}
          >
            <button type="button" aria-current={frame.id === current} onClick={() => onChoose(frame.id)}>
              <img src={pictures.latestThumbnail(frame)} alt="" loading="lazy" />
              <span className="name">
                {frame.name}
                <small>{note(frame)}</small>
              </span>
              <span className="figure">{figure(frame)}</span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}

/** Steps through `frames` with the arrow keys unless a field or slider has the focus. */
export function useFrameKeys(frames: Frame[], current: number | undefined, onChoose: (id: number) => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (
        isTyping(event.target) ||
        event.target instanceof HTMLInputElement ||
        event.altKey ||
        event.ctrlKey ||
        event.metaKey ||
        event.shiftKey ||
        event.defaultPrevented
      )
        return;
      const step = event.key === 'ArrowDown' ? 1 : event.key === 'ArrowUp' ? -1 : 0;
      if (!step) return;
      const next = frames[frames.findIndex((frame) => frame.id === current) + step];
      if (!next) return;
      event.preventDefault();
      onChoose(next.id);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [frames, current, onChoose]);
}
