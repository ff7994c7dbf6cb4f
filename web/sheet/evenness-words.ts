import type { Evenness, Fall } from '../../core/analysis/evenness';
import { numberInWords } from '../../words/words';

/** What is said of how even a series is. */

const capital = (text: string) =>
  text.replace(/^( ?)(.)/, (_, space: string, first: string) => space + first.toUpperCase());
const inWords = (n: number) => (n === 0 ? 'No' : capital(numberInWords(n)));

/** Beyond so many times what counts as even it is far. */
const FAR = 2;

/** One way in which a photograph falls out. */
export function fallInWords({ what, way, far }: Fall): string {
  const much = far > FAR ? 'far ' : '';
  if (what === 'blacks') return way === 'lighter' ? `blacks lifted ${much}more` : `blacks lifted ${much}less`;
  if (what === 'whites') return way === 'lighter' ? `whites ${much}brighter` : `whites ${much}duller`;
  return `${much}${way} in the ${what}`;
}

/** The most telling of how a photograph falls out. */
function shortly(falls: readonly Fall[]): string {
  const [first] = falls;
  if (first.what === 'blacks' || first.what === 'whites') return `has ${fallInWords(first)}`;
  return `is ${first.far > FAR ? 'far ' : ''}${first.way}`;
}

const listed = (parts: readonly string[]) =>
  parts.length < 2 ? parts.join('') : `${parts.slice(0, -1).join(', ')} and ${parts.at(-1)}`;

/** More than so many are counted, not named. */
const NAMED = 4;

/**
 * The series in a few sentences: how many sit together, who falls out and how, who is bare.
 * @param isBare of each photograph, in order
 */
export function evennessInWords({ middle, placed }: Evenness, isBare: readonly boolean[]): string {
  const numbersOf = (are: (i: number) => boolean) => placed.flatMap((_, i) => (are(i) ? [i + 1] : []));
  const bare = numbersOf(i => isBare[i]);
  const bareSaid = (lead: string) =>
    bare.length === 0
      ? ''
      : bare.length > NAMED
        ? ` ${inWords(bare.length)} are still bare.`
        : ` ${lead}${listed(bare.map(n => `no. ${n}`))} ${bare.length > 1 ? 'are' : 'is'} still bare.`;
  if (!middle)
    return `With three treated photographs it is seen how they sit together.${capital(bareSaid(''))}`;
  const fallen = numbersOf(i => (placed[i]?.falls.length ?? 0) > 0);
  const together = placed.filter(p => p && !p.falls.length).length;
  const sit = `${inWords(together)} photograph${together === 1 ? ' sits' : 's sit'} together.`;
  if (fallen.length > NAMED) return `${sit} ${inWords(fallen.length)} fall out.${capital(bareSaid(''))}`;
  const named = fallen.map(n => `no. ${n} ${shortly(placed[n - 1]!.falls)}`);
  const said = named.length ? ` ${capital(`${listed(named)}.`)}` : '';
  return `${sit}${said}${capital(bareSaid(''))}`;
}

/** The photograph that is nearest to the middle of the series; -1 where there is none. */
export function nearestToMiddle({ placed }: Evenness): number {
  let nearest = -1;
  let least = Infinity;
  placed.forEach((p, i) => {
    if (!p) return;
    const there = Object.values(p.apart).filter(d => d !== null);
    // One that has all zones tells more.
    const distance = there.reduce((sum, d) => sum + d, 0) / there.length + (3 - there.length);
    if (distance < least) [nearest, least] = [i, distance];
  });
  return nearest;
}
