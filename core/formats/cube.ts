/** A corner of the colours that a table holds. */
type Corner = [number, number, number];

/**
 * Colour tables in the open .cube text form: 1D and 3D, domain limits, comments, any spacing. Red varies fastest
 * in a 3D table.
 */
export interface CubeTable {
  title: string;
  dimensions: 1 | 3;
  /** Entries along an axis. */
  size: number;
  domainMin: Corner;
  domainMax: Corner;
  /** RGB, interleaved: `size` entries for 1D, `size`³ for 3D with red fastest. */
  values: Float32Array;
}

/** A table that cannot be read: the line (from 1; 0 for the whole) and the reason. */
export class CubeError extends Error {
  constructor(
    readonly line: number,
    readonly reason: string,
  ) {
    super(line ? `line ${line}: ${reason}` : reason);
    this.name = 'CubeError';
  }
}

const MOST_1D = 65536;
const MOST_3D = 129;
/** Text longer than this is refused unread. */
/** Characters of a line: a title, or three numbers. */
const MOST_LINE = 4096;
const MOST_TEXT = 96 * 1024 * 1024;

const numberPattern = /^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/;
/** No number is longer; the pattern takes a time that grows with the square of the length. */
const LONGEST_NUMBER = 64;

function numbersOf(words: string[], count: number, line: number, what: string): number[] {
  if (words.length !== count)
    throw new CubeError(line, `${what} needs ${count} numbers, not ${words.length}`);
  return words.map(word => {
    const v = word.length <= LONGEST_NUMBER && numberPattern.test(word) ? Number(word) : NaN;
    // Tables are kept in single precision, where a larger number would be infinite.
    if (!Number.isFinite(Math.fround(v))) throw new CubeError(line, `not a number: ${word.slice(0, 20)}`);
    return v;
  });
}

const titleIn = (line: string) => line.slice(5).trim().replace(/^"|"$/g, '').slice(0, 200);

/** The title that the text of a .cube file says before its numbers; empty where it says none. */
export function titleOfCube(text: string): string {
  for (const raw of text.split('\n', 200)) {
    const line = raw.trim().replace(/^\uFEFF/, '');
    if (/^TITLE\b/.test(line)) return titleIn(line);
    if (/^[-+.\d]/.test(line)) break;
  }
  return '';
}

/** Reads the text of a .cube file. Throws a CubeError that names the line. */
export function readCube(text: string): CubeTable {
  if (text.length > MOST_TEXT) throw new CubeError(0, 'the table is too large');
  let title = '';
  let dimensions: 1 | 3 | 0 = 0;
  let size = 0;
  let min: Corner = [0, 0, 0];
  let max: Corner = [1, 1, 1];
  let values = new Float32Array(0);
  let filled = 0;
  let line = 0;
  for (let from = 0; from < text.length;) {
    let to = text.indexOf('\n', from);
    if (to < 0) to = text.length;
    line++;
    if (to - from > MOST_LINE) throw new CubeError(line, `longer than ${MOST_LINE} characters`);
    const raw = text.slice(from, to);
    from = to + 1;
    const clean = raw.trim().replace(/^\uFEFF/, '');
    if (clean === '' || clean.startsWith('#')) continue;
    const words = clean.split(/[\s,]+/);
    const [first, ...rest] = words;
    if (!/^[A-Za-z_]/.test(first)) {
      if (!dimensions) throw new CubeError(line, 'numbers before LUT_1D_SIZE or LUT_3D_SIZE');
      const total = dimensions === 3 ? size ** 3 : size;
      if (filled >= total) throw new CubeError(line, `more than the ${total} entries of its size`);
      values.set(numbersOf(words, 3, line, 'an entry'), filled * 3);
      filled++;
      continue;
    }
    switch (first) {
      case 'TITLE':
        title = titleIn(clean);
        break;
      case 'LUT_1D_SIZE':
      case 'LUT_3D_SIZE': {
        if (dimensions) throw new CubeError(line, 'a second size');
        dimensions = first === 'LUT_1D_SIZE' ? 1 : 3;
        const most = dimensions === 1 ? MOST_1D : MOST_3D;
        [size] = numbersOf(rest, 1, line, first);
        if (!Number.isInteger(size) || size < 2 || size > most) {
          throw new CubeError(line, `${first} must be a whole number from 2 to ${most}`);
        }
        values = new Float32Array((dimensions === 3 ? size ** 3 : size) * 3);
        break;
      }
      case 'DOMAIN_MIN':
        min = numbersOf(rest, 3, line, first) as Corner;
        break;
      case 'DOMAIN_MAX':
        max = numbersOf(rest, 3, line, first) as Corner;
        break;
      case 'LUT_1D_INPUT_RANGE':
      case 'LUT_3D_INPUT_RANGE': {
        const [low, high] = numbersOf(rest, 2, line, first);
        min = [low, low, low];
        max = [high, high, high];
        break;
      }
      default:
        throw new CubeError(line, `unknown keyword ${first.slice(0, 40)}`);
    }
  }
  if (!dimensions) throw new CubeError(0, 'has no LUT_1D_SIZE or LUT_3D_SIZE');
  const total = dimensions === 3 ? size ** 3 : size;
  if (filled < total) throw new CubeError(0, `has ${filled} entries of the ${total} that its size asks for`);
  if (min.some((v, i) => !(v < max[i]))) throw new CubeError(0, 'the domain is empty');
  return { title, dimensions, size, domainMin: min, domainMax: max, values };
}

/** Writes a table as .cube text, six decimals. */
export function writeCube({ title, dimensions, size, domainMin, domainMax, values }: CubeTable): string {
  const lines = [`TITLE "${title.replace(/["\r\n]/g, ' ')}"`, `LUT_${dimensions}D_SIZE ${size}`];
  if (domainMin.some(v => v !== 0)) lines.push(`DOMAIN_MIN ${domainMin.join(' ')}`);
  if (domainMax.some(v => v !== 1)) lines.push(`DOMAIN_MAX ${domainMax.join(' ')}`);
  for (let i = 0; i < values.length; i += 3) {
    lines.push(`${values[i].toFixed(6)} ${values[i + 1].toFixed(6)} ${values[i + 2].toFixed(6)}`);
  }
  return `${lines.join('\n')}\n`;
}

/** A table as a function on an encoded colour, in place: 3D by tetrahedral, 1D by linear interpolation, held at its domain's ends. */
export function applyCube({
  dimensions,
  size,
  domainMin,
  domainMax,
  values,
}: CubeTable): (c: Float64Array) => void {
  const last = size - 1;
  const at = new Float64Array(3);
  const place = (c: Float64Array) => {
    for (let k = 0; k < 3; k++) {
      const t = (c[k] - domainMin[k]) / (domainMax[k] - domainMin[k]);
      at[k] = Math.min(1, Math.max(0, t)) * last;
    }
  };
  if (dimensions === 1) {
    return c => {
      place(c);
      for (let k = 0; k < 3; k++) {
        const i = Math.min(last - 1, Math.floor(at[k]));
        const low = values[i * 3 + k];
        c[k] = low + (at[k] - i) * (values[i * 3 + 3 + k] - low);
      }
    };
  }
  const steps = [1, size, size * size];
  return c => {
    place(c);
    let base = 0;
    let r = 0;
    let g = 0;
    let b = 0;
    for (let k = 0; k < 3; k++) {
      const i = Math.min(last - 1, Math.floor(at[k]));
      base += i * steps[k];
      const f = at[k] - i;
      if (k === 0) r = f;
      else if (k === 1) g = f;
      else b = f;
    }
    // The tetrahedron: walk the axes from the largest fraction to the smallest.
    const firstIsRed = r >= g && r >= b;
    const first = firstIsRed ? 0 : g >= b ? 1 : 2;
    const rest = first === 0 ? (g >= b ? 1 : 2) : first === 1 ? (r >= b ? 0 : 2) : r >= g ? 0 : 1;
    const lastAxis = 3 - first - rest;
    const f = [r, g, b];
    const p = base * 3;
    const q = (base + steps[first]) * 3;
    const s = (base + steps[first] + steps[rest]) * 3;
    const t = (base + steps[0] + steps[1] + steps[2]) * 3;
    for (let k = 0; k < 3; k++) {
      c[k] =
        values[p + k] * (1 - f[first]) +
        values[q + k] * (f[first] - f[rest]) +
        values[s + k] * (f[rest] - f[lastAxis]) +
        values[t + k] * f[lastAxis];
    }
  };
}
