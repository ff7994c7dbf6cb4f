import type { Stop } from './gradient';

/** The colour of a wash: one, or a ramp by the tone beneath. */
export type Pigment = { kind: 'flat'; colour: string } | { kind: 'ramp'; stops: Stop[] };

/** A pigment with a name, as it lies in the box. */
export interface NamedPigment {
  name: string;
  pigment: Pigment;
  /** How it is laid, -1 body colour .. 1 transparent dye; 0 tints. */
  depth: number;
}

const flat = (name: string, colour: string, depth = 0): NamedPigment => ({
  name,
  depth,
  pigment: { kind: 'flat', colour },
});
/** A ramp that goes with the tones beneath, from the shadows to the lights. */
const ramp = (name: string, shadow: string, middle: string, light: string, depth = 0): NamedPigment => ({
  name,
  depth,
  pigment: {
    kind: 'ramp',
    stops: [
      { at: 0.08, colour: shadow },
      { at: 0.5, colour: middle },
      { at: 0.92, colour: light },
    ],
  },
});

/** The starter box, mixed for this project on the tones of its own series. Muted, as old tints are; what is
 * dense on a tinted print (lips, cloth, wood, metal, dark hair) is laid partly as a dye. */
export const starterBox: readonly NamedPigment[] = [
  ramp('Skin, fair', '#5c2f2a', '#c28b74', '#f3dccb', 0.15),
  ramp('Skin, olive', '#4a2c1e', '#a97b57', '#e6c9a6', 0.15),
  ramp('Skin, brown', '#2f1a13', '#80553c', '#cfa482', 0.2),
  ramp('Skin, deep', '#1d100d', '#553629', '#a3795f', 0.2),
  flat('Lips', '#a3504c', 0.45),
  ramp('Hair, dark', '#120d0b', '#3d2d25', '#8a7361', 0.45),
  ramp('Hair, fair', '#4b351d', '#a5854f', '#ecdcae', 0.2),
  ramp('Foliage', '#1a2414', '#5d7039', '#bec688', 0.3),
  ramp('Reed', '#33270f', '#8d7738', '#dccb8d', 0.2),
  ramp('Sky', '#4d6378', '#94aec0', '#dfe8ea'),
  ramp('Dusk', '#5a4455', '#b98d86', '#f2d3b6'),
  ramp('Water', '#16242b', '#537076', '#b9cbc8', 0.2),
  ramp('Plank', '#24160d', '#7c5c40', '#cbb08b', 0.35),
  ramp('Quince', '#4f3a0c', '#b7983a', '#efdf9a', 0.15),
  flat('Oxide', '#8c3f2c', 0.4),
  flat('Ferry blue', '#3f6d78', 0.4),
  flat('Linen', '#cfc2a4', -0.15),
  ramp('Brass', '#2f210b', '#94742f', '#e6d49a', 0.3),
  ramp('Iron', '#15181b', '#5a6268', '#b9c0c4', 0.2),
  ramp('Stone', '#26231f', '#87806f', '#d8d2c3', 0.2),
];
