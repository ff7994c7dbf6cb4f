import type { Stop } from './gradient';

/** The colour of a wash: one, or a ramp by the tone beneath. */
export type Pigment = { kind: 'flat'; colour: string } | { kind: 'ramp'; stops: Stop[] };

/** A pigment with a name, as it lies in the box. */
export interface NamedPigment {
  name: string;
  pigment: Pigment;
}

const flat = (name: string, colour: string): NamedPigment => ({ name, pigment: { kind: 'flat', colour } });
/** A ramp that goes with the tones beneath, from the shadows to the lights. */
const ramp = (name: string, shadow: string, middle: string, light: string): NamedPigment => ({
  name,
  pigment: {
    kind: 'ramp',
    stops: [
      { at: 0.08, colour: shadow },
      { at: 0.5, colour: middle },
      { at: 0.92, colour: light },
    ],
  },
});

/** The starter box, mixed for this project on the tones of its own series. Muted, as old tints are. */
export const starterBox: readonly NamedPigment[] = [
  ramp('Skin, fair', '#5c2f2a', '#c28b74', '#f3dccb'),
  ramp('Skin, olive', '#4a2c1e', '#a97b57', '#e6c9a6'),
  ramp('Skin, brown', '#2f1a13', '#80553c', '#cfa482'),
  ramp('Skin, deep', '#1d100d', '#553629', '#a3795f'),
  flat('Lips', '#a3504c'),
  ramp('Hair, dark', '#120d0b', '#3d2d25', '#8a7361'),
  ramp('Hair, fair', '#4b351d', '#a5854f', '#ecdcae'),
  ramp('Foliage', '#1a2414', '#5d7039', '#bec688'),
  ramp('Reed', '#33270f', '#8d7738', '#dccb8d'),
  ramp('Sky', '#4d6378', '#94aec0', '#dfe8ea'),
  ramp('Dusk', '#5a4455', '#b98d86', '#f2d3b6'),
  ramp('Water', '#16242b', '#537076', '#b9cbc8'),
  ramp('Plank', '#24160d', '#7c5c40', '#cbb08b'),
  ramp('Quince', '#4f3a0c', '#b7983a', '#efdf9a'),
  flat('Oxide', '#8c3f2c'),
  flat('Ferry blue', '#3f6d78'),
  flat('Linen', '#cfc2a4'),
  ramp('Brass', '#2f210b', '#94742f', '#e6d49a'),
  ramp('Iron', '#15181b', '#5a6268', '#b9c0c4'),
];
