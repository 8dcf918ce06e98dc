import { expose } from 'comlink';
import { carried, comparable, type Carried, type Comparable } from '../../../core/touch/carry.ts';
import type { Path } from '../../../core/touch/touch.ts';
import { fetchPicture } from '../../worker/fetchPicture.ts';

/** Finds, beside the page, where touches belong on other frames. */

/** The frame that touches were last carried from. */
let from: { address: string; picture: Comparable } | undefined;

const worker = {
  /**
   * @param strokes their lines and widths.
   * @returns for each of them where it belongs on the other frame; undefined where nothing tells.
   * @throws Error if a picture cannot be fetched.
   */
  async carry(
    own: string,
    other: string,
    strokes: readonly { line: Path; size: number }[],
  ): Promise<(Carried | undefined)[]> {
    if (from?.address !== own) from = { address: own, picture: comparable(await fetchPicture(own)) };
    const [source, target] = [from.picture, comparable(await fetchPicture(other))];
    return strokes.map(({ line, size }) => carried(line, size, source, target));
  },
};
export type CarryWorker = typeof worker;
expose(worker);
