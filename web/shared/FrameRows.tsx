import { useEffect, useRef, type ReactNode } from 'react';
import type { Frame } from '../../contract/index.ts';
import { pictures } from '../state/api.ts';

/** Frames as the rows of a printed table. Arrow keys walk through them; the current one stays in view. */
export function FrameRows({ frames, current, onChoose, note, figure }: { frames: Frame[]; current: number | undefined; onChoose: (id: number) => void; note: (frame: Frame) => ReactNode; figure: (frame: Frame) => ReactNode }) {
  const list = useRef<HTMLUListElement>(null);
  useEffect(() => {
    list.current?.querySelector('[aria-current=true]')?.scrollIntoView({ block: 'nearest' });
  }, [current]);
  return (
    <ul className="rows" ref={list} aria-label="Frames">
      {frames.map((frame) => (
        <li key={frame.id}>
          <button type="button" aria-current={frame.id === current} onClick={() => onChoose(frame.id)}>
            <img src={frame.cut ? pictures.cutThumbnail(frame.id, frame.cut.version) : pictures.thumbnail(frame.id)} alt="" loading="lazy" />
            <span className="name">
              {frame.name}
              <small>{note(frame)}</small>
            </span>
            <span className="figure">{figure(frame)}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

/** Steps through `frames` with the arrow keys unless a field or slider has the focus. */
export function useFrameKeys(frames: Frame[], current: number | undefined, onChoose: (id: number) => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.target instanceof HTMLInputElement || event.altKey || event.ctrlKey || event.metaKey || event.shiftKey || event.defaultPrevented) return;
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
