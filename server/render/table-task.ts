import { asColours, cubeOf, exactnessOf, leftOut, type Exactness } from '../../core/engine/cube';
import { writeCube } from '../../core/formats/cube';
import type { Held } from './band';
import { hear, type Told } from './told';

/** A treatment as a colour table, with how exact it is on a small picture. */
export interface Tabulate {
  tabulate: {
    told: Told;
    held: Held[];
    title: string;
    size: number;
    /** 16-bit RGB codes of the bare picture in its frame, and of the treated one. */
    bare: Uint16Array;
    treated: Uint16Array;
  };
}

export interface Tabulated extends Exactness {
  text: string;
  left: { kind: string; name: string; why: 'area' | 'beyond' }[];
}

/** What the treatment carries must be at hand. */
export function tabulate({ told, title, size, bare, treated }: Tabulate['tabulate']): Tabulated {
  const treatment = hear(told);
  const left = leftOut(treatment).map(({ step: { kind, name }, why }) => ({ kind, name, why }));
  const table = { ...cubeOf(asColours(treatment), size), title };
  return { ...exactnessOf(table, bare, treated), left, text: writeCube(table) };
}
