import { familyNames, hueSixths, membershipsAt, pureHue, type Family } from '../../colour/hues';
import { rgbToOklab } from '../../colour/oklab';
import { LUMINANCE, decode, encode } from '../../colour/srgb';
import type { Codes } from '../../kernels/grid';
import type { Finding } from '../define';
import { responded, responseShare } from '../response';
import { sampleOf } from './sample';

/** No family is moved further than this. */
const BOUND = 0.8;
const SAMPLES = 6000;
/** Side of the cells (OKLab) in which samples count as one colour; the fullest cells are looked at. */
const CELL = 0.05;
const MOST_CELLS = 90;
/** How far colours are to stand apart in grey for a chroma difference (OKLab) of one, and at most. */
const APART = 1.3;
const FARTHEST = 0.3;
/** A smaller chroma difference (OKLab) is none. */
const LEAST_CHROMA = 0.03;
/** A difference in grey at which two colours are no longer much alike. */
const ALIKE = 0.12;
/** How much the lightness that a hue has by nature (yellow light, blue dark) says beside the lightness that is there. */
const NATURE = 0.5;
/** How strongly the sliders are held at 0: a family with little to say stays there. */
const REST = 0.002;
/** How strongly neighbours on the circle are held together: what parts them draws the noise of hues between. */
const EVEN = 0.0015;
/** Chroma (largest less smallest channel) below which a colour counts as grey. */
const GREY = 0.06;
/** How much of a family (share of the picture by how much it answers) there is at least, if it is moved. */
const PRESENT = 0.001;
/** A colour with less than this share of the picture is not spoken of. */
const SPOKEN = 0.012;
/** Colours whose greys are nearer than this (codes) are merged, and must come apart at least so far. */
const MERGED = 20;
/** A gain in distance (codes) that is worth a word. */
const WORTH = 6;

type Named = Family | 'grey';

/** A colour of the picture: all samples of one cell. */
interface Patch {
  count: number;
  /** OKLab. */
  lab: [number, number, number];
  grey: number;
  /** How much it answers, and to which families. */
  share: number;
  memberships: number[];
  family: Named;
  /** The lightness that it has by nature, weighted by its chroma. */
  nature: number;
}

/** OKLab lightness of the pure hues around the circle, in twelfths, less their middle. */
const natures = Array.from({ length: 13 }, (_, i) => {
  const c = Float64Array.from(pureHue(i * 30));
  rgbToOklab(c);
  return c[0] - 0.72;
});
const natureOf = (sixths: number): number => {
  const at = sixths * 2;
  const i = Math.min(11, Math.floor(at));
  return natures[i] + (natures[i + 1] - natures[i]) * (at - i);
};

/** The colours of a picture, those of which there is most first. */
function patchesOf(rgb: Float64Array): Patch[] {
  const cells = new Map<string, { count: number; sum: number[] }>();
  const c = new Float64Array(3);
  for (let i = 0; i < rgb.length; i += 3) {
    c.set(rgb.subarray(i, i + 3));
    rgbToOklab(c);
    const key = Array.from(c, v => Math.round(v / CELL)).join();
    const cell = cells.get(key) ?? { count: 0, sum: [0, 0, 0] };
    cell.count++;
    for (let k = 0; k < 3; k++) cell.sum[k] += rgb[i + k];
    cells.set(key, cell);
  }
  const all = rgb.length / 3;
  return Array.from(cells.values())
    .sort((a, b) => b.count - a.count)
    .slice(0, MOST_CELLS)
    .map(({ count, sum }) => {
      const [r, g, b] = sum.map(v => v / count);
      c.set([r, g, b]);
      rgbToOklab(c);
      const most = Math.max(r, g, b);
      const span = most - Math.min(r, g, b);
      const sixths = hueSixths(r, g, b, most, span);
      const memberships = membershipsAt(sixths);
      const share = responseShare(span);
      return {
        count: count / all,
        lab: [c[0], c[1], c[2]] as [number, number, number],
        grey: encode(LUMINANCE[0] * decode(r) + LUMINANCE[1] * decode(g) + LUMINANCE[2] * decode(b)),
        share,
        memberships,
        family: span < GREY ? 'grey' : familyNames[memberships.indexOf(Math.max(...memberships))],
        nature: share * natureOf(sixths),
      };
    });
}

const greyOf = (patch: Patch, v: readonly number[]): number => {
  let pull = 0;
  for (let f = 0; f < v.length; f++) pull += v[f] * patch.memberships[f];
  return responded(patch.grey, pull * patch.share);
};

/** Two colours by their place among the patches. */
interface Pair {
  light: number;
  dark: number;
  /** How far apart their greys are to be. */
  wanted: number;
  weight: number;
}

/** How light each family is here and by nature, together: which of two is to be the lighter. */
function ranksOf(patches: readonly Patch[]): Map<Named, number> {
  const sums = new Map<Named, { count: number; rank: number }>();
  for (const { family, count, grey, nature } of patches) {
    const sum = sums.get(family) ?? { count: 0, rank: 0 };
    sum.count += count;
    sum.rank += count * (grey + NATURE * nature);
    sums.set(family, sum);
  }
  return new Map(Array.from(sums, ([family, { count, rank }]) => [family, rank / count]));
}

/** The pairs of colours of two families that luminance makes much alike. */
function pairsOf(patches: readonly Patch[]): Pair[] {
  const ranks = ranksOf(patches);
  const pairs: Pair[] = [];
  for (let i = 0; i < patches.length; i++) {
    for (let j = 0; j < patches.length; j++) {
      const light = patches[i];
      const dark = patches[j];
      if (!(ranks.get(light.family)! > ranks.get(dark.family)!)) continue;
      const alike = Math.exp(-(((light.grey - dark.grey) / ALIKE) ** 2));
      const chroma = Math.hypot(light.lab[1] - dark.lab[1], light.lab[2] - dark.lab[2]);
      if (alike < 0.01 || chroma < LEAST_CHROMA) continue;
      const weight = Math.sqrt(light.count * dark.count) * alike * chroma;
      pairs.push({ light: i, dark: j, wanted: Math.min(FARTHEST, APART * chroma), weight });
    }
  }
  return pairs;
}

/** How far the greys are from standing as far apart as is wanted, and the sliders from rest. */
function loss(
  patches: readonly Patch[],
  pairs: readonly Pair[],
  present: readonly boolean[],
  v: readonly number[],
): number {
  const greys = patches.map(p => greyOf(p, v));
  let sum = 0;
  let weights = 0;
  for (const { light, dark, wanted, weight } of pairs) {
    const short = Math.max(0, wanted - (greys[light] - greys[dark]));
    sum += weight * short * short;
    weights += weight;
  }
  let held = 0;
  for (let f = 0; f < v.length; f++) {
    const next = (f + 1) % v.length;
    held += REST * v[f] * v[f];
    if (present[f] && present[next]) held += EVEN * (v[f] - v[next]) ** 2;
  }
  return sum / (weights || 1) + held;
}

/** The least loss, one slider after another in steps that grow finer. */
function descend(patches: readonly Patch[], pairs: readonly Pair[]): number[] {
  const present = familyNames.map(
    (_, f) => patches.reduce((sum, p) => sum + p.count * p.share * p.memberships[f], 0) > PRESENT,
  );
  let v = new Array<number>(familyNames.length).fill(0);
  let best = loss(patches, pairs, present, v);
  for (const step of [0.4, 0.2, 0.1, 0.05, 0.02]) {
    for (let moved = true, round = 0; moved && round < 6; round++) {
      moved = false;
      for (let f = 0; f < v.length; f++) {
        if (!present[f]) continue;
        for (const by of [step, -step]) {
          const tried = v.with(f, Math.min(BOUND, Math.max(-BOUND, v[f] + by)));
          const found = loss(patches, pairs, present, tried);
          if (found < best - 1e-9) {
            best = found;
            v = tried;
            moved = true;
          }
        }
      }
    }
  }
  return v.map(each => Math.round(each * 100) / 100 || 0);
}

/** The colours that are worth a word, their mean greys by luminance and as they come out. */
function spokenOf(patches: readonly Patch[], v: readonly number[]) {
  const sums = new Map<Named, { count: number; before: number; after: number }>();
  for (const p of patches) {
    const sum = sums.get(p.family) ?? { count: 0, before: 0, after: 0 };
    sum.count += p.count;
    sum.before += p.count * p.grey * 255;
    sum.after += p.count * greyOf(p, v) * 255;
    sums.set(p.family, sum);
  }
  return Array.from(sums)
    .filter(([, { count }]) => count >= SPOKEN)
    .map(([name, { count, before, after }]) => ({ name, before: before / count, after: after / count }));
}

/** Every two of the colours worth a word: how far apart they were, and are. */
function distancesOf(patches: readonly Patch[], v: readonly number[]) {
  const spoken = spokenOf(patches, v);
  return spoken.flatMap((p, i) =>
    spoken.slice(0, i).map(q => {
      const [light, dark] = p.after >= q.after ? [p, q] : [q, p];
      return {
        lighter: light.name,
        darker: dark.name,
        before: Math.abs(light.before - dark.before),
        after: light.after - dark.after,
      };
    }),
  );
}

/**
 * The response to hue families that best keeps apart in grey what colour keeps apart: over the pairs of the picture's
 * colours, the difference wanted is that of the colours (OKLab), its sign that of what is there and of what the hue is by
 * nature, so that yellow stays lighter than blue. Colours that luminance would merge come apart by 20 of 255 at least,
 * where the bounds allow it. A picture with nothing to part gives zeros.
 * @returns -0.8..0.8 for each family, in hundredths, and what it came to
 */
export function autoResponse(codes: Codes): { response: Record<Family, number>; said: Finding } {
  const patches = patchesOf(sampleOf(codes, SAMPLES));
  let pairs = pairsOf(patches);
  let v = descend(patches, pairs);
  for (let round = 0; round < 4; round++) {
    const merged = distancesOf(patches, v).filter(
      d => d.before < MERGED && d.after < MERGED + 4 && d.lighter !== 'grey' && d.darker !== 'grey',
    );
    if (merged.length === 0) break;
    const heavier = (p: Named, q: Named) =>
      merged.some(
        ({ lighter, darker }) => (lighter === p && darker === q) || (lighter === q && darker === p),
      );
    pairs = pairs.map(pair =>
      heavier(patches[pair.light].family, patches[pair.dark].family)
        ? { ...pair, weight: pair.weight * 4 }
        : pair,
    );
    v = descend(patches, pairs);
  }
  const [most] = distancesOf(patches, v).sort((a, b) => b.after - b.before - (a.after - a.before));
  const worth = most && most.after - most.before >= WORTH;
  const response = Object.fromEntries(familyNames.map((name, f) => [name, worth ? v[f] : 0]));
  return {
    response: response as Record<Family, number>,
    said: worth
      ? {
          what: 'parted',
          lighter: most.lighter,
          darker: most.darker,
          by: Math.round(most.after - most.before),
        }
      : { what: 'nothing-to-part' },
  };
}
