import type { Request } from 'express';
import sharp from 'sharp';
import { Refusal } from '../../http/answers.ts';
import type { Context } from '../../http/context.ts';
import { receivePicture } from '../../http/receivePicture.ts';
import { transparencyOf } from '../../pictures/transparency.ts';
import { findFrame } from '../gather/frames.ts';
import { storedMatte } from './cutElsewhere.ts';

/** Mattes made elsewhere: files of the store, 16-bit grey, named by their content as pictures are. */

/** How far the proportions of a matte may be off its frame's. */
const SAME_SHAPE = 0.01;

/**
 * Takes the request's body as the matte of a frame: the transparency of a cut-out picture, or the brightness of an
 * opaque one. @returns the name by which a frame's guidance refers to it.
 */
export async function keepMatte(context: Context, frameId: number, request: Request): Promise<string> {
  const { store } = context;
  const { frame } = await findFrame(context, frameId);
  const received = await receivePicture(request, store, 'background');
  if ('reason' in received) throw new Refusal(400, received);
  try {
    const { width, height } = received.facts;
    if (Math.abs(width / height / (frame.width / frame.height) - 1) > SAME_SHAPE)
      throw new Refusal(400, {
        reason: `it has ${width} × ${height} pixels, the frame ${frame.width} × ${frame.height}`,
        remedy: 'Choose the matte of this frame, not cropped.',
      });
    const grey =
      (await transparencyOf(received.path)) ??
      sharp(received.path, { limitInputPixels: false }).autoOrient().toColourspace('grey16').extractChannel(0);
    return await storedMatte(store, grey);
  } finally {
    await received.drop();
  }
}
