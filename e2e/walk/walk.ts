import { isDeepStrictEqual } from 'node:util';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { written } from '../../words/number-format';
import type { App } from '../../server/testing/running';
import { colourAt, pictureOn, type Shot } from '../picture';
import { throwAct, throwSheetAct } from './acts';
import { randomOf, type Random } from './random';

/**
 * A person whom nobody told what to do, at the real interface over a network that is late and fails; after each act what is on
 * the screen is held against what is so.
 */

interface Step {
  id: string;
  kind: string;
  strength: number;
}
interface Take {
  id: string;
  revision: number;
  treatment: { steps: Step[] };
  undo: string | null;
}
interface Photograph {
  id: string;
  title: string;
  currentTakeId: string;
  takes: { id: string; letter: string; revision: number }[];
}
export interface Stand {
  /** The series that is walked in. */
  series: string;
  /** Its photographs, in their order. */
  photographs: readonly { id: string; title: string }[];
}

/** What does not hold, and the acts before it, by their numbers. */
export class Untrue extends Error {
  acts: number[] = [];
  said: string[] = [];
}
const hold = (is: boolean, what: string) => {
  if (!is) throw new Untrue(what);
};

/** Answers are late by 0 to 800 ms, and one of thirty of those that ask for something fails. */
export async function hinder(page: Page, seed: number): Promise<void> {
  const random = randomOf(seed ^ 0x5bd1e995);
  await page.context().route('**/api/**', async route => {
    const late = random.chance(0.4) ? random.below(800) : 0;
    if (late) await new Promise(done => setTimeout(done, late));
    const isAsking = route.request().method() === 'GET' && !/pixels|picture/.test(route.request().url());
    if (isAsking && random.chance(1 / 30)) return route.abort().catch(() => undefined);
    return route.continue().catch(() => undefined);
  });
}

/** The photograph that is open; empty on the sheet. */
const openPhotograph = (page: Page) => /photographs\/([\w-]+)/.exec(page.url())?.[1] ?? '';

/** What a hand does is taken up with the next frame, which is late where the machine is busy. */
const twoFrames = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<void>(done => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done)))),
  );

/** Waits until all is saved and the picture rests; on the sheet until its prints are there. */
async function rest(page: Page): Promise<void> {
  await twoFrames(page);
  if (!openPhotograph(page)) {
    await page.getByRole('grid', { name: 'Photographs' }).waitFor({ timeout: 30_000 });
    return;
  }
  await page
    .waitForFunction(
      () => {
        const { wanted, shown, fine } =
          document.querySelector<HTMLElement>('canvas[data-picture]')?.dataset ?? {};
        const isSaved = document.querySelector('[data-saving=saved]') !== null;
        return isSaved && wanted !== undefined && wanted === shown && fine === 'true';
      },
      undefined,
      { timeout: 60_000 },
    )
    .catch(() => hold(false, 'the picture comes to rest, and all is saved'));
}

/** What the panel shows, read at once: between two looks another step may have come. */
const panelOf = (page: Page) =>
  page.evaluate(() => {
    const panel = document.querySelector<HTMLElement>('aside[data-step]');
    if (!panel) return null;
    const marked = document.querySelector<HTMLElement>('[data-tray][aria-current=step]');
    const strength = panel.querySelector<HTMLInputElement>('input[aria-label="Strength, number"]');
    return {
      step: panel.dataset.step!,
      marked: marked?.dataset.holds?.split(' ') ?? null,
      strength: strength?.value ?? '',
      // Each number is that of its slider, which is drawn from the treatment.
      apart: [...panel.querySelectorAll<HTMLElement>('[data-control]')].flatMap(row => {
        const slider = row.querySelector<HTMLInputElement>('input[type=range]');
        const number = row.querySelector<HTMLInputElement>('input[inputmode=decimal]');
        if (!slider || !number) return [];
        const text = slider.getAttribute('aria-valuetext');
        return text === number.value
          ? []
          : [`${row.dataset.control}: ${text} on the slider, ${number.value} in the field`];
      }),
    };
  });

async function fieldsHold(page: Page, { treatment }: Take): Promise<void> {
  let panel = await panelOf(page);
  // A panel that has only just come has its fields a moment later.
  for (let tries = 0; panel?.strength === '' && tries < 50; tries++) {
    await page.waitForTimeout(200);
    panel = await panelOf(page);
  }
  if (!panel) return;
  const own = treatment.steps.find(s => s.id === panel.step);
  hold(own !== undefined, `the panel is of a step that is there (${panel.step})`);
  hold(!panel.marked || panel.marked.includes(panel.step), 'the panel is of the tray that is marked');
  const shown = { shownTimes: 100, unit: '', decimals: 0, centred: false };
  hold(
    panel.strength === written(own!.strength, shown, 'en-US'),
    `Strength of ${own!.kind} shows ${panel.strength}, and is ${own!.strength}`,
  );
  hold(panel.apart.length === 0, `fields show what is set: ${panel.apart.join('; ')}`);
}

/** How unlike the pixels about a place are. */
function spread({ width, height, data }: Shot, u: number, v: number, reach: number): number {
  const [x, y] = [Math.round(u * (width - 1)), Math.round(v * (height - 1))];
  let [least, most] = [255, 0];
  for (let j = Math.max(0, y - reach); j <= Math.min(height - 1, y + reach); j++) {
    for (let i = Math.max(0, x - reach); i <= Math.min(width - 1, x + reach); i++) {
      for (let k = 0; k < 3; k++) {
        const code = data[(j * width + i) * 4 + k];
        least = Math.min(least, code);
        most = Math.max(most, code);
      }
    }
  }
  return most - least;
}

/** Where the canvas and the server's picture of what is saved are not alike within 2 codes where it is smooth; null where they are. */
async function apartFrom(page: Page, app: App, { id, revision }: Take): Promise<string | null> {
  const response = await fetch(`${app.url}/api/takes/${id}/picture?edge=960&revision=${revision}`);
  const { data, info } = await sharp(Buffer.from(await response.arrayBuffer()))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const theirs = { width: info.width, height: info.height, data };
  const ours = await pictureOn(page);
  for (const u of [0.1, 0.3, 0.5, 0.7, 0.9]) {
    for (const v of [0.15, 0.4, 0.65, 0.9]) {
      const [a, b] = [
        colourAt(ours, u, v, 6),
        colourAt(theirs, u, v, Math.round((6 * info.width) / ours.width)),
      ];
      const off = Math.max(...a.map((x, k) => Math.abs(x - b[k])));
      // Grain and edges are not alike to the code at another size, nor what JPEG makes of them.
      const most = spread(ours, u, v, 9) > 24 ? 9 : 2.5;
      if (off >= most) return `off by ${off.toFixed(1)} at ${u}, ${v}`;
    }
  }
  return null;
}

/** So long a picture is looked at once more, to tell whether it stays wrong. */
const LATER_MS = 3000;

async function pictureHolds(page: Page, app: App, take: Take): Promise<void> {
  const apart = await apartFrom(page, app, take);
  if (apart === null) return;
  await page.screenshot({ path: `test-results/walk/${take.id}.png` });
  await page.waitForTimeout(LATER_MS);
  const later = await apartFrom(page, app, take);
  hold(
    false,
    `the picture is that of what is saved: ${apart}; ${LATER_MS / 1000} s later ${later ?? 'it is'} (${take.id}, ${take.revision})`,
  );
}

/** Each print in sight is that of the photograph beneath it, as it is now, or is still empty. */
async function sheetHolds(page: Page, photographs: readonly Photograph[]): Promise<void> {
  const prints = await page.locator('div[data-print-of]').evaluateAll(all =>
    all.map(print => ({
      id: (print as HTMLElement).dataset.printOf!,
      label: print.parentElement?.querySelector('b')?.textContent ?? '',
      address: print.querySelector('img')?.getAttribute('src') ?? '',
    })),
  );
  for (const { id, label, address } of prints) {
    const photograph = photographs.find(p => p.id === id);
    hold(photograph !== undefined, `a print is of a photograph of the series (${id})`);
    hold(label.includes(photograph!.title), `the name beneath a print is its own: ${label}`);
    if (!address) continue;
    const take = photograph!.takes.find(t => t.id === photograph!.currentTakeId)!;
    hold(address.includes(take.id), `the print of ${photograph!.title} is of the take that is worked on`);
    const revision = Number(/revision=(\d+)/.exec(address)?.[1] ?? take.revision);
    hold(revision <= take.revision, `the print of ${photograph!.title} is of a state that has been`);
  }
}

/** A walk: where it is, and what is held of each act. */
class Walk {
  /** What is being done. */
  doing = '';

  constructor(
    private readonly page: Page,
    private readonly app: App,
    private readonly stand: Stand,
  ) {}

  private photograph(id: string): Promise<Photograph> {
    return this.app.api('GET', `/api/photographs/${id}`);
  }

  /** The take that is worked on: which one it is may still be on its way to the server. */
  private async take(id: string): Promise<Take> {
    const current = this.page
      .getByRole('group', { name: 'Takes of this photograph' })
      .locator('[aria-current]');
    for (let tries = 0; ; tries++) {
      const { currentTakeId, takes } = await this.photograph(id);
      const { letter } = takes.find(t => t.id === currentTakeId)!;
      const isOpen = openPhotograph(this.page) === id;
      const shown = isOpen ? ((await current.textContent()) ?? '').trim() : letter;
      if (shown === letter) return this.app.api('GET', `/api/takes/${currentTakeId}`);
      hold(tries < 30, `the take on screen (${shown}) is the one that the server has (${letter})`);
      await this.page.waitForTimeout(200);
    }
  }

  async begin(): Promise<void> {
    await this.page.goto(`${this.app.url}/photographs/${this.stand.photographs[0].id}`);
    await rest(this.page);
  }

  /** Does the act of a number, and holds what is to hold; null where it cannot be done here. */
  async act(number: number): Promise<string | null> {
    const random = randomOf(number);
    return openPhotograph(this.page) ? this.onBench(random) : this.onSheet(random);
  }

  private async onSheet(random: Random): Promise<string> {
    const { page, app, stand } = this;
    const act = throwSheetAct(page, random);
    this.doing = act.said;
    await act.do();
    if (act.goes === 'back' && !openPhotograph(page))
      await page.waitForURL(/photographs/, { timeout: 3000 }).catch(() => undefined);
    await rest(page);
    if (!openPhotograph(page)) {
      const photographs = await Promise.all(stand.photographs.map(({ id }) => this.photograph(id)));
      await sheetHolds(page, photographs);
    } else {
      const take = await this.take(openPhotograph(page));
      await fieldsHold(page, take);
      await pictureHolds(page, app, take);
    }
    return act.said;
  }

  private async onBench(random: Random): Promise<string | null> {
    const { page, app, stand } = this;
    const id = openPhotograph(page);
    const before = await this.take(id);
    const chosen = await page
      .locator('aside[data-step]')
      .getAttribute('data-step', { timeout: 1000 })
      .catch(() => null);
    const act = await throwAct(page, random);
    if (!act) return null;
    this.doing = act.said;
    await act.do();
    if (act.goes === 'sheet') {
      await page.waitForURL(/series/);
      await rest(page);
      hold(isDeepStrictEqual((await this.take(id)).treatment, before.treatment), 'nothing is changed by it');
      return act.said;
    }
    await rest(page);
    const at = stand.photographs.findIndex(p => p.id === id);
    const by = typeof act.goes === 'number' ? act.goes : 0;
    const wanted = stand.photographs[at + by] ?? stand.photographs[at];
    hold(openPhotograph(page) === wanted.id, `the photograph is the one that was asked for: ${wanted.title}`);
    if (act.changes === 'takes') await rest(page);
    const after = await this.take(id);
    const isChanged = !isDeepStrictEqual(after.treatment, before.treatment);
    if (act.changes === 'nothing') hold(!isChanged, 'nothing is changed by it');
    if (act.changes === 'step') {
      const others = (take: Take) => take.treatment.steps.filter(s => s.id !== chosen);
      hold(isDeepStrictEqual(others(after), others(before)), 'no other step is changed by it');
      hold(!isChanged || after.undo !== null, 'it can be undone');
    }
    await fieldsHold(page, wanted.id === id ? after : await this.take(wanted.id));
    // One act is one undo, and undo brings the very treatment back.
    if (act.isOne && isChanged && random.chance(0.3)) {
      await page.locator('[data-stage-of-picture]').focus();
      await page.keyboard.press('Control+z');
      await rest(page);
      hold(isDeepStrictEqual((await this.take(id)).treatment, before.treatment), 'one undo takes it back');
      await page.keyboard.press('Control+Shift+z');
      await rest(page);
      hold(isDeepStrictEqual((await this.take(id)).treatment, after.treatment), 'redo makes it again');
    }
    if (random.chance(0.2) || act.changes === 'takes') {
      await pictureHolds(page, app, await this.take(wanted.id));
    }
    return act.said;
  }
}

/**
 * Walks through the acts of some numbers, each thrown from its own, so that the walk can be gone again without some of them.
 * @returns what was done; throws `Untrue` with the numbers where something does not hold
 */
export async function walk(page: Page, app: App, stand: Stand, numbers: Iterable<number>): Promise<string[]> {
  const on = new Walk(page, app, stand);
  const acts: number[] = [];
  const said: string[] = [];
  await on.begin();
  for (const number of numbers) {
    acts.push(number);
    try {
      const done = await on.act(number);
      if (done === null) acts.pop();
      else said.push(done);
    } catch (error) {
      const untrue = new Untrue((error as Error).message);
      untrue.acts = acts;
      untrue.said = [...said, on.doing];
      throw untrue;
    }
  }
  return said;
}

/** Numbers of a seed, until a time. */
export function* numbersUntil(seed: number, until: number): Iterable<number> {
  const random = randomOf(seed);
  while (Date.now() < until) yield random.below(2 ** 31);
}

/**
 * The shortest walk that was found to break as well: first its end alone, then without single acts.
 * @param breaks goes a walk again
 */
export async function shortened(
  acts: readonly number[],
  breaks: (acts: readonly number[]) => Promise<boolean>,
  until: number,
): Promise<readonly number[]> {
  let shortest = acts;
  for (const last of [2, 4, 8, 16, 32]) {
    if (last >= acts.length || Date.now() > until) break;
    if (await breaks(acts.slice(-last))) {
      shortest = acts.slice(-last);
      break;
    }
  }
  for (let i = shortest.length - 2; i >= 0 && Date.now() < until; i--) {
    const without = shortest.filter((_, k) => k !== i);
    if (await breaks(without)) shortest = without;
  }
  return shortest;
}
