import { ButtonBase, styled } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import type { Frame } from '../../contract/index.ts';

/** Least width of a picture with its gap, and height of a row of them, in pixels, as the style sheet has them. */
const COLUMN = 140;
const ROW = 216;

const Contact = styled('ul')`
  list-style: none;
  position: relative;
  margin-right: -12px;
  & > li {
    position: absolute;
    top: 0;
    padding-right: 12px;
  }
  & figure {
    position: relative;
  }
  & .mat {
    background: var(--surround);
    height: 164px;
    display: grid;
    place-items: center;
  }
  & .chosen {
    outline: 3px solid var(--accent);
  }
  & img {
    max-width: 100%;
    max-height: 164px;
    display: block;
  }
  & figcaption {
    padding-top: 3px;
    line-height: 1.25;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
  }
  & .MuiIconButton-root {
    position: absolute;
    right: 0;
    top: 0;
    opacity: 0;
    background: var(--sheet);
    border-radius: 0;
  }
  & figure:hover .MuiIconButton-root,
  & .MuiIconButton-root:focus-visible {
    opacity: 1;
  }
`;

interface Props {
  frames: readonly Frame[];
  /** Address of a frame's picture. */
  picture: (frame: Frame) => string;
  /** Under its name. */
  note: (frame: Frame) => ReactNode;
  /** Over its picture, shown while it is pointed at. */
  action?: (frame: Frame) => ReactNode;
  /** Pressing a picture; `keys` are held meanwhile. */
  onChoose?: (frame: Frame, keys: { shiftKey: boolean; ctrlKey: boolean; metaKey: boolean }) => void;
  /** Pressing it twice. */
  onOpen?: (frame: Frame) => void;
  /** Those that are chosen; the last of them is kept in sight. */
  chosen?: ReadonlySet<number>;
  inSight?: number;
  /** How many stand beside each other, as that changes. */
  onColumns?: (columns: number) => void;
}

/** Frames as a contact sheet; only the rows in sight are drawn. */
export function ContactSheet(props: Props) {
  const { frames, picture, note, action, onChoose, onOpen, chosen, inSight, onColumns } = props;
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
  useLayoutEffect(() => void onColumns?.(place.columns), [onColumns, place.columns]);
  const sought = inSight === undefined ? -1 : frames.findIndex(({ id }) => id === inSight);
  useLayoutEffect(() => {
    if (sought >= 0) rows.scrollToIndex(Math.floor(sought / place.columns));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the virtualizer is another object at every drawing
  }, [sought, place.columns]);
  return (
    <Contact ref={sheet} style={{ height: rows.getTotalSize() }}>
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
              <div className={chosen?.has(frame.id) ? 'mat chosen' : 'mat'}>
                {onChoose ? (
                  <ButtonBase
                    aria-pressed={chosen?.has(frame.id)}
                    onClick={(event) => onChoose(frame, event)}
                    onDoubleClick={() => onOpen?.(frame)}
                  >
                    <img src={picture(frame)} alt={frame.name} loading="lazy" />
                  </ButtonBase>
                ) : (
                  <img src={picture(frame)} alt={frame.name} loading="lazy" />
                )}
              </div>
              <figcaption>
                {frame.name}
                <div className="quiet figure">{note(frame)}</div>
              </figcaption>
              {action?.(frame)}
            </figure>
          </li>
        )),
      )}
    </Contact>
  );
}

function scrollerOf(element: HTMLElement | null): HTMLElement | undefined {
  return element?.closest<HTMLElement>('main') ?? undefined;
}
