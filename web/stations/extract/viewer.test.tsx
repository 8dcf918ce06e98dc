import { createEvent, fireEvent, render, screen } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import type { Point, Sight, Size } from './sight.ts';
import { Viewer } from './Viewer.tsx';

/** The picture viewer: moving, coming closer, picking, and when finer pixels are asked for. */

const size = { width: 4000, height: 6000 };
const picture = { width: 800, height: 1200, close: () => undefined } as unknown as ImageBitmap;
const seen = vi.fn<(sight: Sight | undefined) => void>();
const picked = vi.fn<(point: { x: number; y: number }) => void>();

beforeEach(() => {
  seen.mockClear();
  picked.mockClear();
  vi.stubGlobal(
    'ResizeObserver',
    class {
      constructor(private readonly tell: (entries: { contentRect: DOMRect }[]) => void) {}
      observe(): void {
        this.tell([{ contentRect: { width: 832, height: 632 } as DOMRect }]);
      }
      disconnect(): void {
        // Nothing is kept.
      }
    },
  );
  HTMLElement.prototype.setPointerCapture = () => undefined;
  vi.spyOn(HTMLElement.prototype, 'getBoundingClientRect').mockReturnValue({
    left: 100,
    top: 50,
    width: 832,
    height: 632,
  } as DOMRect);
});

function show(part: Partial<Parameters<typeof Viewer>[0]> = {}): HTMLElement {
  const { container } = render(
    <Viewer picture={picture} size={size} label="F1.jpg, grey" sight={undefined} onSight={seen} {...part} />,
  );
  return container.querySelector('.viewer') as HTMLElement;
}

test('a click is told in shares of the frame; a drag is none', () => {
  const stage = show({ onPick: picked });
  // The whole picture: a tenth of its size, its middle in the middle.
  fireEvent.pointerDown(stage, { pointerId: 1, clientX: 100 + 416 + 100, clientY: 50 + 316 });
  fireEvent.pointerUp(stage, { pointerId: 1, clientX: 100 + 416 + 102, clientY: 50 + 316 });
  expect(picked).toHaveBeenCalledOnce();
  expect(picked.mock.calls[0][0].x).toBeCloseTo(0.5 + 1020 / 4000);
  expect(picked.mock.calls[0][0].y).toBeCloseTo(0.5);
  fireEvent.pointerDown(stage, { pointerId: 1, clientX: 300, clientY: 300 });
  fireEvent.pointerUp(stage, { pointerId: 1, clientX: 340, clientY: 300 });
  expect(picked).toHaveBeenCalledOnce();
});

test('the whole picture does not move; a part of it goes with the hand', () => {
  const whole = show();
  fireEvent.pointerDown(whole, { pointerId: 1, clientX: 300, clientY: 300 });
  fireEvent.pointerMove(whole, { pointerId: 1, clientX: 350, clientY: 300 });
  expect(seen).not.toHaveBeenCalled();
});

test('at full size a pixel follows the hand, and the middle stays on the picture', () => {
  const stage = show({ sight: { x: 1000, y: 20, scale: 1 } });
  fireEvent.pointerDown(stage, { pointerId: 1, clientX: 300, clientY: 300 });
  fireEvent.pointerMove(stage, { pointerId: 1, clientX: 350, clientY: 330 });
  expect(seen).toHaveBeenLastCalledWith({ x: 950, y: 0, scale: 1 });
});

test('a double click comes to full size there, and goes back', () => {
  const stage = show();
  fireEvent.doubleClick(stage, { clientX: 100 + 416, clientY: 50 + 216 });
  expect(seen).toHaveBeenLastCalledWith({ x: 2000, y: 2000, scale: 1 });
});

test('while something is picked a double click is two picks', () => {
  const stage = show({ onPick: picked });
  fireEvent.doubleClick(stage, { clientX: 516, clientY: 266 });
  expect(seen).not.toHaveBeenCalled();
});

test('the wheel comes closer under the pointer; outwards it ends in the whole picture', () => {
  const stage = show({ sight: { x: 2000, y: 3000, scale: 1 } });
  const turn = (deltaY: number): void => {
    const event = createEvent.wheel(stage, { deltaY });
    // The page of the tests gives a wheel no place of its own.
    Object.defineProperties(event, { clientX: { value: 516 }, clientY: { value: 366 } });
    fireEvent(stage, event);
  };
  turn(-200);
  const [closer] = seen.mock.lastCall ?? [];
  expect(closer?.scale).toBeCloseTo(Math.exp(0.32));
  expect(closer?.x).toBeCloseTo(2000);
  turn(4000);
  expect(seen).toHaveBeenLastCalledWith(undefined);
});

test('finer pixels are asked for only where the picture has none, what lies around too, and not for more than a screen', async () => {
  const asked: string[] = [];
  vi.stubGlobal('fetch', (address: string) => {
    asked.push(address);
    return Promise.resolve({ ok: true, blob: () => Promise.resolve(new Blob()) });
  });
  vi.stubGlobal('createImageBitmap', () => Promise.resolve(picture));
  const addressOf = ({ x, y, width, height }: Point & Size): string => `region ${x} ${y} ${width} ${height}`;
  const { rerender } = render(
    <Viewer picture={picture} size={size} label="fine" sight={undefined} onSight={seen} detail={addressOf} />,
  );
  const canvas = screen.getByRole('img', { name: 'fine' });
  const look = (sight: Sight): void =>
    rerender(<Viewer picture={picture} size={size} label="fine" sight={sight} onSight={seen} detail={addressOf} />);
  // Half way there it would be more pixels than a screen has.
  look({ x: 2000, y: 3000, scale: 0.25 });
  look({ x: 2000, y: 3000, scale: 1 });
  look({ x: 2410, y: 3000, scale: 1 });
  await vi.waitFor(() => expect(canvas.getAttribute('data-sharp')).toBe('true'));
  expect(asked).toEqual(['region 1728 2368 1408 1216']);
  // A hand that moves the picture finds what lies around.
  look({ x: 2310, y: 3100, scale: 1 });
  expect(canvas.getAttribute('data-sharp')).toBe('true');
  expect(asked).toHaveLength(1);
  // Farther aside only what is new is asked for; what has been in sight is still at hand.
  look({ x: 2010, y: 3000, scale: 1 });
  expect(canvas.getAttribute('data-sharp')).toBe('false');
  await vi.waitFor(() => expect(canvas.getAttribute('data-sharp')).toBe('true'));
  look({ x: 2410, y: 3000, scale: 1 });
  expect(canvas.getAttribute('data-sharp')).toBe('true');
  expect(asked.slice(1)).toEqual(['region 1280 2368 448 1216']);
  look({ x: 600, y: 3000, scale: 1 });
  expect(canvas.getAttribute('data-sharp')).toBe('false');
});

test('what was left while it was asked for is asked for again, and a wide sight for no more than is handed out', async () => {
  const asked: string[] = [];
  vi.stubGlobal(
    'fetch',
    (address: string, { signal }: { signal: AbortSignal }) =>
      new Promise((_, refuse) => {
        asked.push(address);
        signal.addEventListener('abort', () => refuse(new Error('aborted')));
      }),
  );
  const show = (view: string) => (
    <Viewer
      picture={picture}
      size={size}
      label="fine"
      sight={{ x: 2000, y: 3000, scale: 0.4 }}
      onSight={seen}
      detail={({ width, height }) => `${view} ${width} ${height}`}
    />
  );
  const { rerender } = render(show('grey'));
  await vi.waitFor(() => expect(asked).toHaveLength(1));
  rerender(show('red'));
  await vi.waitFor(() => expect(asked).toHaveLength(2));
  rerender(show('grey'));
  await vi.waitFor(() => expect(asked).toHaveLength(3));
  expect(asked[2]).toBe(asked[0]);
  const [, width, height] = asked[0].split(' ').map(Number);
  expect(Math.max(width, height)).toBeLessThanOrEqual(2400);
});

test('finer pixels that cannot be had are asked for once; another cut asks anew', async () => {
  const asked: string[] = [];
  vi.stubGlobal('fetch', (address: string) => {
    asked.push(address);
    return Promise.resolve({ ok: false, statusText: 'gone' });
  });
  const show = (cut: string) => (
    <Viewer
      picture={picture}
      size={size}
      label="fine"
      sight={{ x: 2410, y: 3000, scale: 1 }}
      onSight={seen}
      detail={({ x, y }) => `${cut} ${x} ${y}`}
    />
  );
  const { rerender } = render(show('first'));
  await vi.waitFor(() => expect(asked).toEqual(['first 1728 2368']));
  await new Promise((resolve) => setTimeout(resolve, 300));
  expect(asked).toHaveLength(1);
  rerender(show('second'));
  await vi.waitFor(() => expect(asked).toEqual(['first 1728 2368', 'second 1728 2368']));
});

test('what is drawn over it knows where the frame lies; it waits for the size', () => {
  show({
    overlay: ({ project, scale }) => {
      const { x, y } = project({ x: 0, y: 0 });
      return <p>{`corner at ${x.toFixed(0)} ${y.toFixed(0)}, ${scale}`}</p>;
    },
  });
  expect(screen.getByText('corner at 216 16, 0.1')).toBeTruthy();
});

describe('two fingers', () => {
  const finger = (stage: HTMLElement, what: 'Down' | 'Move' | 'Up', pointerId: number, x = 0, y = 0): void =>
    void fireEvent[`pointer${what}`](stage, {
      pointerId,
      pointerType: 'touch',
      button: 0,
      clientX: 100 + 416 + x,
      clientY: 50 + 316 + y,
    });

  test('come closer where they are, and move the picture with them', () => {
    const stage = show({ sight: { x: 2000, y: 3000, scale: 1 } });
    finger(stage, 'Down', 1, -50);
    finger(stage, 'Down', 2, 50);
    finger(stage, 'Move', 1, -100);
    finger(stage, 'Move', 2, 100);
    expect(seen).toHaveBeenLastCalledWith({ x: 2000, y: 3000, scale: 2 });
    finger(stage, 'Move', 1, -60, 30);
    finger(stage, 'Move', 2, 140, 30);
    expect(seen).toHaveBeenLastCalledWith({ x: 1980, y: 2985, scale: 2 });
    // Together again it is the whole picture.
    finger(stage, 'Move', 1, -1);
    finger(stage, 'Move', 2, 1);
    expect(seen).toHaveBeenLastCalledWith(undefined);
  });

  test('draw no stroke; the one that is left does nothing', () => {
    const [onStroke, onEnd] = [vi.fn(), vi.fn()];
    const stroking = { onStroke, onEnd, onWheel: () => undefined, from: undefined };
    const stage = show({ sight: { x: 2000, y: 3000, scale: 1 }, stroking });
    finger(stage, 'Down', 1, -50);
    expect(onStroke.mock.lastCall?.[0]).toHaveLength(1);
    finger(stage, 'Down', 2, 50);
    expect(onStroke).toHaveBeenLastCalledWith([]);
    finger(stage, 'Up', 2, 50);
    seen.mockClear();
    finger(stage, 'Move', 1, 80);
    finger(stage, 'Up', 1, 80);
    expect(seen).not.toHaveBeenCalled();
    expect(onEnd).not.toHaveBeenCalled();
    // The next finger draws again.
    finger(stage, 'Down', 3, 10);
    finger(stage, 'Up', 3, 10);
    expect(onEnd).toHaveBeenCalledOnce();
  });
});
