import type { Background, Frame } from '../../../contract/index.ts';
import { noExtras, plainLook, type Look } from '../../../core/place/index.ts';
import { pictures } from '../../state/api.ts';
import { useStore } from '../../state/store.ts';
import { lightName } from './knownLight.ts';

/** The small finished pictures of frames, by their addresses, and what they are made with. */
export function useFinishedAddress() {
  const checks = useStore((state) => state.checks);
  const styles = useStore((state) => state.styles);
  const frames = useStore((state) => state.frames);
  const backgrounds = useStore((state) => state.backgrounds);
  // What cards may have in their fields.
  const words = useStore(({ shoot }) => `${shoot?.name} ${shoot?.date} ${shoot?.place} ${shoot?.frames}`);
  const backgroundOf = (frame: Frame): Background | undefined =>
    backgrounds.find(({ id }) => id === frame.placement?.backgroundId);
  const styleOf = (frame: Frame) => styles.find(({ backgroundId }) => backgroundId === frame.placement?.backgroundId);
  const lookOf = (frame: Frame): Look => ({ ...plainLook, ...styleOf(frame)?.look, ...frame.placement?.look });
  /** @param worded whether the words and the border of its style are on it. */
  const addressOf = (frame: Frame, worded = true): string =>
    frame.placement
      ? pictures.finished(
          frame,
          lookOf(frame),
          { ...(styleOf(frame)?.extras ?? noExtras), ...(worded ? {} : { card: null }) },
          `${lightName(frame, backgroundOf(frame), checks, frames)} ${frame.subject} ${words}`,
        )
      : pictures.latestThumbnail(frame);
  return { backgroundOf, lookOf, addressOf };
}
