import { faceInput, facesFrom, type Face } from '../../core/persons/faces.ts';
import type { EncodedRaster } from '../../core/image/raster.ts';
import { network } from './network.ts';

/** The faces in an upright sRGB frame; none, and said on the console, where the network cannot run. About 30 ms. */
export async function findFaces(frame: EncodedRaster): Promise<Face[]> {
  try {
    const run = await network('faces');
    const [boxes, scores] = await run(faceInput(frame));
    return facesFrom(frame, boxes, scores);
  } catch (error) {
    console.error('Faces could not be looked for:', (error as Error).message);
    return [];
  }
}
