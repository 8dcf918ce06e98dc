import { ButtonBase, styled } from '@mui/material';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  useLayoutEffect,
  useRef,
  useState,
  type ComponentType,
  type DragEvent,
  type PointerEvent,
  type ReactNode,
} from 'react';
import type { Frame } from '../../contract/index.ts';

/** Least width of a picture with its gap, and height of a row of them, in pixels, as the style sheet has them. */
const COLUMN = 140;
const ROW = 216;
/** Height of a picture, and what parts it from the next. */
const PICTURE = 164;
const GAP = 12;

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
  /** Dragging a box over pictures; those that it touches, in their order. */
  onBox?: (frames: Frame[]) => void;
  /** What is around each picture, so that chosen ones can be dragged elsewhere. */
  carried?: ComponentType<{ id: number; chosen: boolean; children: ReactNode }>;
  /** How many stand beside each other, as that changes. */
  onColumns?: (columns: number) => void;
}

/** Frames as a contact sheet; only the rows in sight are drawn. */
export function ContactSheet(props: Props) {
  const {
    frames,
    picture,
    note,
    action,
    onChoose,
    onOpen,
    chosen,
    inSight,
    onBox,
    carried: Around = Bare,
    onColumns,
  } = props;
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
  const [box, setBox] = useState<Box>();
  const at = ({ clientX, clientY }: { clientX: number; clientY: number }): { x: number; y: number } => {
    const { left, top } = sheet.current?.getBoundingClientRect() ?? { left: 0, top: 0 };
    return { x: clientX - left, y: clientY - top };
  };
  const endBox = (): void => {
    setBox(undefined);
    const across = (sheet.current?.clientWidth ?? 0) / place.columns;
    if (box && onBox && isBox(box))
      onBox(
        frames.filter((_, n) => {
          const x = (n % place.columns) * across;
          const y = Math.floor(n / place.columns) * ROW;
          const { from, to } = box;
          return (
            Math.max(from.x, to.x) > x &&
            Math.min(from.x, to.x) < x + across - GAP &&
            Math.max(from.y, to.y) > y &&
            Math.min(from.y, to.y) < y + PICTURE
          );
        }),
      );
  };
  const dragging = onBox && {
    onPointerDown: (event: PointerEvent) => {
      if (props.carried && (event.target as Element).closest('.chosen')) return;
      if (event.button === 0 && event.pointerType === 'mouse') setBox({ from: at(event), to: at(event) });
    },
    onPointerMove: (event: PointerEvent) => {
      if (!box) return;
      setBox({ ...box, to: at(event) });
      // From here on it is no press of a picture.
      if (isBox(box)) sheet.current?.setPointerCapture(event.pointerId);
    },
    onPointerUp: endBox,
    onPointerCancel: () => setBox(undefined),
    onDragStart: (event: DragEvent) => event.preventDefault(),
  };
  return (
    <Contact ref={sheet} style={{ height: rows.getTotalSize() }} {...dragging}>
      {box && isBox(box) && (
        <li
          aria-hidden
          style={{
            transform: `translate(${Math.min(box.from.x, box.to.x)}px, ${Math.min(box.from.y, box.to.y)}px)`,
            width: Math.abs(box.to.x - box.from.x),
            height: Math.abs(box.to.y - box.from.y),
            padding: 0,
            zIndex: 1,
            border: '1px solid var(--accent)',
            pointerEvents: 'none',
          }}
        />
      )}
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
              <Around id={frame.id} chosen={chosen?.has(frame.id) ?? false}>
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
              </Around>
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

function Bare({ children }: { children: ReactNode }) {
  return children;
}

interface Box {
  from: { x: number; y: number };
  to: { x: number; y: number };
}
/** Less is a press with an unsteady hand, pixels. */
function isBox({ from, to }: Box): boolean {
  return Math.hypot(to.x - from.x, to.y - from.y) > 8;
}

function scrollerOf(element: HTMLElement | null): HTMLElement | undefined {
  return element?.closest<HTMLElement>('main') ?? undefined;
}
