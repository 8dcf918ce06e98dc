import { useHotkeys } from 'react-hotkeys-hook';
import { isTyping } from './isTyping.ts';

/** One key: as the hotkeys package writes it (several by a space), as people read it, and what it does. */
export interface KeyFacts {
  keys: string;
  shown: string;
  does: string;
}

export type KeyPlace =
  | 'everywhere'
  | 'plan'
  | 'check'
  | 'gather'
  | 'look'
  | 'extract'
  | 'values'
  | 'mask'
  | 'brush'
  | 'walk'
  | 'sheet'
  | 'crops'
  | 'place';

export const keyPlaces: Record<KeyPlace, string> = {
  everywhere: 'Everywhere',
  plan: 'Plan',
  check: 'Check',
  gather: 'Gather, picks',
  look: 'Gather, the fast look',
  extract: 'Extract',
  values: 'Extract, while values are shown',
  mask: 'Extract, while a mask is drawn',
  brush: 'Extract, while a brush is held',
  walk: 'Extract, on the walk',
  sheet: 'Extract, all results',
  place: 'Place',
  crops: 'Hand over, crops',
};

/**
 * Every key of the application, once: pages bind them by their names, and the help prints them. Those without `keys`
 * belong to what has the focus.
 */
export const keyTable = {
  everywhere: {
    back: { keys: 'ctrl+z meta+z', shown: 'Ctrl+Z', does: 'takes back the last change' },
    again: { keys: 'ctrl+y ctrl+shift+z meta+shift+z', shown: 'Ctrl+Y', does: 'does it again' },
    help: { keys: '? shift+?', shown: '?', does: 'lists the keys' },
  },
  plan: {
    move: { keys: '', shown: 'arrows', does: 'move the thing in focus by 5 cm, with Shift by 1 cm' },
    step: { keys: '', shown: '↑ ↓', does: 'a number one step up or down, with Shift finer' },
  },
  check: {
    view: { keys: '1 2 3 4 5 6 7 8', shown: '1–8', does: 'photograph or map' },
  },
  gather: {
    move: { keys: 'left right up down', shown: 'arrows', does: 'the frame beside, above, below' },
    extend: {
      keys: 'shift+left shift+right shift+up shift+down',
      shown: 'Shift and arrows',
      does: 'choose all on the way',
    },
    all: { keys: 'ctrl+a meta+a', shown: 'Ctrl+A', does: 'chooses all that are shown' },
    keep: { keys: 'k', shown: 'K', does: 'keeps what is chosen' },
    reserve: { keys: 'r', shown: 'R', does: 'holds it in reserve' },
    drop: { keys: 'd', shown: 'D', does: 'drops it' },
    none: { keys: 'backspace', shown: 'Backspace', does: 'takes the pick off it' },
    open: { keys: 'enter', shown: 'Enter', does: 'the fast look' },
    who: { keys: 'w', shown: 'W', does: 'says who is on it' },
    setup: { keys: 's', shown: 'S', does: 'moves it to another setup' },
  },
  look: {
    next: { keys: 'right', shown: '→', does: 'next frame' },
    previous: { keys: 'left', shown: '←', does: 'previous frame' },
    keep: { keys: 'k', shown: 'K', does: 'keeps it and goes on' },
    reserve: { keys: 'r', shown: 'R', does: 'holds it in reserve and goes on' },
    drop: { keys: 'd', shown: 'D', does: 'drops it and goes on' },
    none: { keys: 'backspace', shown: 'Backspace', does: 'takes the pick off it' },
    eyes: { keys: '0', shown: '0', does: 'full size at the eyes, and back' },
    beside: { keys: 'b', shown: 'B', does: 'all frames of this person side by side, and back' },
    leave: { keys: 'escape', shown: 'Esc', does: 'back to the sheet' },
  },
  extract: {
    frame: { keys: 'up down', shown: '↑ ↓', does: 'previous, next frame' },
    view: { keys: '1 2 3 4 5 6 7 8 9', shown: '1–9', does: 'how the frame is shown' },
    beside: { keys: 'd', shown: 'D', does: 'a second view beside this one, and back' },
    values: { keys: 'v', shown: 'V', does: 'the values under the pointer, and a loupe' },
    size: { keys: '0', shown: '0', does: 'full size and back' },
    ribbon: { keys: 'o', shown: 'O', does: 'the outline unrolled, and back' },
    before: { keys: 'b', shown: 'B', does: 'the photograph, while it is held' },
    accept: { keys: 'a', shown: 'A', does: 'accepts the frame and goes on to the next' },
    sheet: { keys: 'e', shown: 'E', does: 'all results at once' },
    again: { keys: 'g', shown: 'G', does: 'the frame is to be come back to' },
    next: { keys: 'n', shown: 'N', does: 'next patch of green' },
    keeps: { keys: 'k', shown: 'K', does: 'the patch keeps its green' },
    goes: { keys: 'r', shown: 'R', does: 'the patch goes with the screen' },
  },
  values: {
    hold: { keys: 'm', shown: 'M', does: 'holds the values under the pointer beside those that follow' },
  },
  mask: {
    done: { keys: 'enter', shown: 'Enter', does: 'closes the mask' },
    less: { keys: 'backspace', shown: 'Backspace', does: 'takes the last corner away' },
    leave: { keys: 'escape', shown: 'Esc', does: 'gives the mask up' },
  },
  brush: {
    wider: { keys: 'w', shown: 'W', does: 'a wider stroke; also Shift and the wheel' },
    finer: { keys: 'f', shown: 'F', does: 'a finer stroke' },
    softer: { keys: 's', shown: 'S', does: 'a softer stroke; also Alt and the wheel' },
    harder: { keys: 'h', shown: 'H', does: 'a harder stroke' },
    straight: { keys: '', shown: 'Shift', does: 'pressed at the beginning: straight on from the last stroke' },
    move: { keys: '', shown: 'right button', does: 'dragged moves the picture; with two fingers by touch' },
    leave: { keys: 'escape', shown: 'Esc', does: 'puts the brush down' },
  },
  walk: {
    answer: { keys: '1 2 3', shown: '1–3', does: 'gives that answer' },
    alike: { keys: 'l', shown: 'L', does: 'shows all that are like this; an answer then holds for them together' },
    skip: { keys: 's', shown: 'S', does: 'leaves the place open' },
    back: { keys: 'u', shown: 'U', does: 'takes the last answer back' },
    bench: { keys: 't', shown: 'T', does: 'takes the frame to the bench' },
    leave: { keys: 'escape', shown: 'Esc', does: 'ends the walk' },
  },
  sheet: {
    leave: { keys: 'escape', shown: 'Esc', does: 'back to the bench' },
  },
  crops: {
    move: { keys: '', shown: 'arrows', does: 'move the crop in focus, with Shift in smaller steps' },
    size: { keys: '', shown: '+ −', does: 'make it larger, smaller' },
    proposed: { keys: '', shown: 'Backspace', does: 'takes it back to the proposal' },
    leave: { keys: 'escape', shown: 'Esc', does: 'back to Hand over' },
  },
  place: {
    frame: { keys: 'up down', shown: '↑ ↓', does: 'previous, next frame' },
    view: { keys: '1 2 3 4 5', shown: '1–5', does: 'how the finished picture is shown' },
    sheet: { keys: 'e', shown: 'E', does: 'all finished pictures at once' },
    fringe: { keys: 'f', shown: 'F', does: 'how much of each fringe will be seen on each background' },
    move: { keys: '', shown: 'arrows', does: 'move the person, the outline in focus; with Shift in larger steps' },
    scale: { keys: '', shown: '+ −', does: 'scale the person' },
  },
} as const satisfies Record<KeyPlace, Record<string, KeyFacts>>;

type Named<P extends KeyPlace> = keyof (typeof keyTable)[P] & string;

/** Binds keys of a place to what they do; not while somebody types. Handlers get the key that was pressed. */
export function useKeys<P extends KeyPlace>(
  place: P,
  handlers: Partial<Record<Named<P>, (key: string) => unknown>>,
  { enabled = true, onRelease }: { enabled?: boolean; onRelease?: (name: Named<P>) => void } = {},
): void {
  const table: Record<string, KeyFacts> = keyTable[place];
  const bound = Object.keys(handlers).flatMap((name) => (table[name].keys ? table[name].keys.split(' ') : []));
  useHotkeys(
    bound,
    (event, { hotkey }) => {
      const name = Object.keys(table).find((one) => table[one].keys.split(' ').includes(hotkey)) as
        Named<P> | undefined;
      if (!name) return;
      if (event.type === 'keyup') return onRelease?.(name);
      event.preventDefault();
      handlers[name]?.(event.key);
    },
    {
      enabled: enabled && bound.length > 0,
      useKey: true,
      keydown: true,
      keyup: onRelease !== undefined,
      enableOnFormTags: true,
      ignoreEventWhen: (event) => event.defaultPrevented || isTyping(event.target) || isTaken(event),
    },
  );
}

/** Whether what has the focus, or an open dialog, has a use of its own for the key. */
function isTaken({ key, target }: KeyboardEvent): boolean {
  if (!(target instanceof Element)) return false;
  if (target.closest('[role="dialog"], [role="menu"]')) return key !== '?';
  return key.startsWith('Arrow') && target.matches('input, [role="slider"], [role="application"], [role="tab"]');
}
