import type { Random } from '../../core/random.ts';
import type { ClothKind } from './cloth.ts';
import type { Lamp } from './forms.ts';
import type { Colour } from './picture.ts';

export type HairStyle = 'bald' | 'short' | 'long' | 'curly' | 'frizzy' | 'tied' | 'flying';
export const hairStyles: readonly HairStyle[] = ['bald', 'short', 'long', 'curly', 'frizzy', 'tied', 'flying'];
export type ArmPose = 'down' | 'hip' | 'raised' | 'wide' | 'folded' | 'overhead';
export const armPoses: readonly ArmPose[] = ['down', 'hip', 'raised', 'wide', 'folded', 'overhead'];

/** Who stands where, sizes in pixels; what is left out is drawn by chance. */
export interface PersonNeed {
  x: number;
  /** Middle of the head, and its height. */
  y: number;
  head: number;
  lamp: Lamp;
  /** Colours and kinds of cloth to choose from. */
  colour?: (random: Random) => Colour;
  kinds?: readonly ClothKind[];
  hair?: HairStyle;
  hairColour?: Colour;
  arms?: ArmPose;
  fromBehind?: boolean;
  seated?: boolean;
  wind?: number;
  extras?: number;
  /** Badges at most. */
  badges?: number;
  /** Colours near the screen's, for some of the small things. */
  near?: (random: Random) => Colour;
}
