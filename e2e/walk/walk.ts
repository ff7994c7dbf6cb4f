import { isDeepStrictEqual } from 'node:util';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { written } from '../../words/number-format';
import type { App } from '../../server/testing/running';
import { colourAt, pictureOn } from '../picture';
import { throwAct, type Act } from './acts';
import { randomOf } from './random';

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
  revision: number;
  treatment: { steps: Step[] };
  undo: string | null;
}
export interface Stand {
  /** The photographs of the series that is walked in, in their order, each with its take. */
  photographs: { id: string; title: string; currentTakeId: string }[];
}

/** What does not hold. */
export class Untrue extends Error {}
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

const openPhotograph = (page: Page) => /photographs\/([\w-]+)/.exec(page.url())?.[1] ?? '';

/** Waits until all is saved and the picture rests. */
async function rest(page: Page): Promise<void> {
  await page.locator('[data-saving=saved]').waitFor({ timeout: 30_000 });
  await page
    .waitForFunction(
      () => {
        const { wanted, shown, fine } =
          document.querySelector<HTMLElement>('canvas[data-picture]')?.dataset ?? {};
        return wanted !== undefined && wanted === shown && fine === 'true';
      },
      undefined,
      { timeout: 30_000 },
    )
    .catch(() => hold(false, 'the picture comes to rest'));
}

async function fieldsHold(page: Page, { treatment }: Take): Promise<void> {
  const panel = page.locator('aside[data-step]');
  if (!(await panel.count())) return;
  const id = await panel.getAttribute('data-step');
  const own = treatment.steps.find(s => s.id === id);
  hold(own !== undefined, `the panel is of a step that is there (${id})`);
  const marked = await page.locator('[data-tray][aria-current=step]').first().getAttribute('data-holds');
  hold(!marked || marked.split(' ').includes(id!), 'the panel is of the tray that is marked');
  const strength = panel.getByRole('textbox', { name: 'Strength, number', exact: true });
  const shown = { shownTimes: 100, unit: '', decimals: 0, centred: false };
  const value = await strength.inputValue();
  hold(
    value === written(own!.strength, shown, 'en-US'),
    `Strength of ${own!.kind} shows ${value}, and is ${own!.strength}`,
  );
  // Each number is that of its slider, which is drawn from the treatment.
  const apart = await panel.evaluate(element =>
    [...element.querySelectorAll<HTMLElement>('[data-control]')].flatMap(row => {
      const slider = row.querySelector<HTMLInputElement>('input[type=range]');
      const number = row.querySelector<HTMLInputElement>('input[inputmode=decimal]');
      if (!slider || !number) return [];
      const text = slider.getAttribute('aria-valuetext');
      return text === number.value
        ? []
        : [`${row.dataset.control}: ${text} on the slider, ${number.value} in the field`];
    }),
  );
  hold(apart.length === 0, `fields show what is set: ${apart.join('; ')}`);
}

/** The canvas and the server's picture of what is saved, at places of both. */
async function pictureHolds(page: Page, app: App, takeId: string, revision: number): Promise<void> {
  const response = await fetch(`${app.url}/api/takes/${takeId}/picture?edge=960&revision=${revision}`);
  const { data, info } = await sharp(Buffer.from(await response.arrayBuffer()))
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const theirs = { width: info.width, height: info.height, data };
  const ours = await pictureOn(page);
  for (const u of [0.15, 0.4, 0.65, 0.9]) {
    for (const v of [0.2, 0.5, 0.8]) {
      const [a, b] = [
        colourAt(ours, u, v, 6),
        colourAt(theirs, u, v, Math.round((6 * info.width) / ours.width)),
      ];
      const off = Math.max(...a.map((x, k) => Math.abs(x - b[k])));
      // A JPEG of another size: grain and edges are not alike to the code.
      hold(off < 7, `the picture is that of what is saved: off by ${off.toFixed(1)} at ${u}, ${v}`);
    }
  }
}

/**
 * Walks until the time is over, or something does not hold.
 * @returns what was done; throws `Untrue` with it where something does not hold
 */
export async function walk(
  page: Page,
  app: App,
  stand: Stand,
  { seed, until }: { seed: number; until: number },
): Promise<string[]> {
  const random = randomOf(seed);
  const done: string[] = [];
  const takeOf = (id: string) => stand.photographs.find(p => p.id === id)!.currentTakeId;
  const takeNow = (id: string) => app.api<Take>('GET', `/api/takes/${takeOf(id)}`);
  await page.goto(`${app.url}/photographs/${stand.photographs[0].id}`);
  await rest(page);
  while (Date.now() < until) {
    const id = openPhotograph(page);
    const before = await takeNow(id);
    const chosen = await page
      .locator('aside[data-step]')
      .getAttribute('data-step', { timeout: 1000 })
      .catch(() => null);
    const act: Act | null = await throwAct(page, random);
    if (!act) continue;
    done.push(act.said);
    try {
      await act.do();
      await rest(page);
      const at = stand.photographs.findIndex(p => p.id === id);
      const wanted = stand.photographs[at + (act.goes ?? 0)] ?? stand.photographs[at];
      hold(
        openPhotograph(page) === wanted.id,
        `the photograph is the one that was asked for: ${wanted.title}`,
      );
      const after = await takeNow(id);
      if (act.changes === 'nothing') {
        hold(isDeepStrictEqual(after.treatment, before.treatment), 'nothing is changed by it');
      } else if (act.changes === 'step') {
        const others = (take: Take) => take.treatment.steps.filter(s => s.id !== chosen);
        hold(isDeepStrictEqual(others(after), others(before)), 'no other step is changed by it');
        if (!isDeepStrictEqual(after.treatment, before.treatment)) {
          hold(after.undo !== null, 'it can be undone');
        }
      }
      await fieldsHold(page, wanted.id === id ? after : await takeNow(wanted.id));
      // One act is one undo, and undo brings the very treatment back.
      if (
        act.changes === 'step' &&
        random.chance(0.3) &&
        !isDeepStrictEqual(after.treatment, before.treatment)
      ) {
        done.push('undo and redo of it');
        await page.locator('[data-stage-of-picture]').focus();
        await page.keyboard.press('Control+z');
        await rest(page);
        hold(isDeepStrictEqual((await takeNow(id)).treatment, before.treatment), 'one undo takes it back');
        await page.keyboard.press('Control+Shift+z');
        await rest(page);
        hold(isDeepStrictEqual((await takeNow(id)).treatment, after.treatment), 'redo makes it again');
      }
      if (random.chance(0.15)) {
        const { revision } = await takeNow(wanted.id);
        await pictureHolds(page, app, takeOf(wanted.id), revision);
      }
    } catch (error) {
      throw new Untrue(
        `${(error as Error).message}\nseed ${seed}, after\n${done
          .slice(-12)
          .map(d => `  ${d}`)
          .join('\n')}`,
      );
    }
  }
  return done;
}
