import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState } from 'react';
import type { Frame } from '../../../contract/index.ts';
import { megapixels } from '../../shared/format.ts';
import { pictures } from '../../state/api.ts';

/** Least width of a picture with its gap, and height of a row of them, in pixels, as the style sheet has them. */
const COLUMN = 140;
const ROW = 216;

/** The frames of a setup as a contact sheet; only the rows in sight are drawn. */
export function ContactSheet({ frames, onRemove }: { frames: Frame[]; onRemove: (frame: Frame) => void }) {
  const sheet = useRef<HTMLUListElement>(null);
  const [place, setPlace] = useState({ columns: 1, top: 0 });
  useLayoutEffect(() => {
    const element = sheet.current;
    const scroller = scrollerOf(element);
    if (!element || !scroller) return;
    const measure = (): void => {
      const columns = Math.max(1, Math.floor((element.clientWidth + 12) / COLUMN));
      const top = Math.round(
        element.getBoundingClientRect().top - scroller.getBoundingClientRect().top + scroller.scrollTop,
      );
      setPlace((old) => (old.columns === columns && old.top === top ? old : { columns, top }));
    };
    measure();
    // What stands above moves the sheet without changing its own size.
    const observer = new ResizeObserver(measure);
    for (const seen of [element, ...(scroller.firstElementChild ? [scroller.firstElementChild] : [])])
      observer.observe(seen);
    return () => observer.disconnect();
  }, []);
  const rows = useVirtualizer({
    count: Math.ceil(frames.length / place.columns),
    getScrollElement: () => scrollerOf(sheet.current) ?? null,
    estimateSize: () => ROW,
    overscan: 2,
    scrollMargin: place.top,
  });
  return (
    <ul className="contact" ref={sheet} style={{ height: rows.getTotalSize() }}>
      {rows.getVirtualItems().map(({ index, start }) =>
        frames.slice(index * place.columns, (index + 1) * place.columns).map((frame, n) => (
          <li
            key={frame.id}
            style={{
              transform: `translateY(${start - place.top}px)`,
              left: `${(100 * n) / place.columns}%`,
              width: `${100 / place.columns}%`,
            }}
          >
            <figure>
              <div className="mat">
                <img src={pictures.thumbnail(frame)} alt={frame.name} loading="lazy" />
              </div>
              <figcaption>
                {frame.name}
                <div className="quiet figure">
                  {frame.takenAt ? frame.takenAt.slice(11, 16) : 'no time'}, {megapixels(frame.width, frame.height)},{' '}
                  {frame.depth} bit
                </div>
              </figcaption>
              <button type="button" className="drop-it" onClick={() => onRemove(frame)}>
                Take out
              </button>
            </figure>
          </li>
        )),
      )}
    </ul>
  );
}

function scrollerOf(element: HTMLElement | null): HTMLElement | undefined {
  return element?.closest<HTMLElement>('.main') ?? undefined;
}
