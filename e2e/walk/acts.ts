import type { Page } from '@playwright/test';
import type { Random } from './random';

/** What a person does at the Bench without having thought of it: each act with what it may change. */

export interface Act {
  /** As it is told when the walk fails. */
  said: string;
  /** What of the treatment it may change: the chosen step alone, the treatment, nothing of it, or which take is worked on. */
  changes: 'step' | 'treatment' | 'nothing' | 'takes';
  /** It is one change: one undo takes it back, whole. */
  isOne?: boolean;
  /** The photograph that is to be open afterwards, by its way from this one, or the sheet; the same where it is left out. */
  goes?: -1 | 1 | 'sheet' | 'back';
  do: () => Promise<void>;
}

const TYPED = ['20.5', '8,5', '-0.4', '0', '70', '-.3', '100', '1', ' 12 ', '7 %', 'abc', '-'];

const visible = async (page: Page, selector: string) => {
  const all = page.locator(selector);
  const shown: number[] = [];
  for (let i = 0; i < (await all.count()); i++) if (await all.nth(i).isVisible()) shown.push(i);
  return shown.map(i => all.nth(i));
};
const trays = (page: Page) => page.locator('[data-tray]');
const fields = (page: Page) => visible(page, 'aside[data-step] input[inputmode=decimal]');
const nameOf = async (locator: ReturnType<Page['locator']>) =>
  (await locator.getAttribute('aria-label')) ?? '?';

/** An act that can be done just now; null where the one that was thrown cannot. */
export async function throwAct(page: Page, random: Random): Promise<Act | null> {
  const kind = random.oneOf([
    'choose',
    'choose',
    'type',
    'type',
    'type',
    'look',
    'drag',
    'arrows',
    'undo',
    'redo',
    'switch',
    'add',
    'remove',
    'go',
    'panels',
    'half typed',
    'paint',
    'paint',
    'new take',
    'other take',
    'sheet',
  ] as const);
  const count = await trays(page).count();
  switch (kind) {
    case 'choose': {
      if (!count) return null;
      const i = random.below(count);
      return {
        said: `chooses tray ${i + 1} of ${count}`,
        changes: 'nothing',
        do: () => trays(page).nth(i).click({ timeout: 5000 }),
      };
    }
    case 'type': {
      const all = await fields(page);
      if (!all.length) return null;
      const field = random.oneOf(all);
      const text = random.oneOf(TYPED);
      const end = random.oneOf(['Enter', 'Tab']);
      return {
        said: `types ${JSON.stringify(text)} into ${await nameOf(field)}, ${end}`,
        changes: 'step',
        isOne: true,
        do: async () => {
          await field.click();
          await page.keyboard.type(text, { delay: 10 });
          await page.keyboard.press(end);
        },
      };
    }
    case 'half typed': {
      const all = await fields(page);
      if (!all.length || count < 2) return null;
      const field = random.oneOf(all);
      const i = random.below(count);
      return {
        said: `types 12 into ${await nameOf(field)} and chooses tray ${i + 1}`,
        changes: 'treatment',
        do: async () => {
          await field.click();
          await page.keyboard.type('12', { delay: 10 });
          await trays(page).nth(i).click({ timeout: 5000 });
        },
      };
    }
    case 'look': {
      const all = await fields(page);
      if (!all.length) return null;
      const field = random.oneOf(all);
      return {
        said: `looks into ${await nameOf(field)} and leaves it`,
        changes: 'nothing',
        do: async () => {
          await field.click();
          await page.keyboard.press('Tab');
        },
      };
    }
    case 'drag': {
      const all = await visible(page, 'aside[data-step] [data-kind]');
      if (!all.length) return null;
      const track = random.oneOf(all);
      const [from, to] = [random.next(), random.next()];
      return {
        said: `drags a slider from ${from.toFixed(2)} to ${to.toFixed(2)}`,
        changes: 'step',
        isOne: true,
        do: async () => {
          await track.scrollIntoViewIfNeeded();
          const box = await track.boundingBox();
          if (!box) return;
          const at = (share: number) => [box.x + share * box.width, box.y + box.height / 2] as const;
          await page.mouse.move(...at(from));
          await page.mouse.down();
          await page.mouse.move(...at(to), { steps: 4 });
          await page.mouse.up();
        },
      };
    }
    case 'arrows': {
      const all = await visible(page, 'aside[data-step] input[type=range]');
      if (!all.length) return null;
      const slider = random.oneOf(all);
      return {
        said: `presses an arrow on ${await nameOf(slider)}`,
        changes: 'step',
        isOne: true,
        do: async () => {
          await slider.focus();
          await page.keyboard.press(random.oneOf(['ArrowRight', 'ArrowLeft', 'PageUp']));
        },
      };
    }
    case 'undo':
    case 'redo':
      return {
        said: kind,
        changes: 'treatment',
        do: () => page.keyboard.press(kind === 'undo' ? 'Control+z' : 'Control+Shift+z'),
      };
    case 'switch': {
      if (!count) return null;
      const i = random.below(count);
      return {
        said: `switches tray ${i + 1} by Space`,
        changes: 'treatment',
        do: async () => {
          await trays(page).nth(i).click({ timeout: 5000 });
          await trays(page).nth(i).focus();
          await page.keyboard.press(' ');
        },
      };
    }
    case 'add': {
      if (count > 9) return null;
      const stage = random.oneOf(['Ground', 'Mono', 'Tone', 'Colour', 'Finish']);
      const word = random.oneOf([
        'light',
        'curve',
        'split',
        'vignette',
        'tint',
        'mono',
        'levels',
        'grain',
        'sepia',
      ]);
      return {
        said: `adds ${word} to ${stage}`,
        changes: 'treatment',
        do: async () => {
          await page.getByRole('button', { name: `Add a step to ${stage}` }).click();
          await page.keyboard.type(word, { delay: 10 });
          await page.keyboard.press('Enter');
        },
      };
    }
    case 'remove': {
      if (count < 3) return null;
      const i = random.below(count);
      return {
        said: `removes tray ${i + 1}`,
        changes: 'treatment',
        do: async () => {
          await trays(page).nth(i).click({ timeout: 5000 });
          await trays(page).nth(i).focus();
          await page.keyboard.press('Delete');
        },
      };
    }
    case 'go': {
      const by = random.oneOf([-1, 1] as const);
      return {
        said: by < 0 ? 'goes to the photograph before' : 'goes to the next photograph',
        changes: 'nothing',
        goes: by,
        do: async () => {
          await page.locator('[data-stage-of-picture]').focus();
          await page.keyboard.press(by < 0 ? ',' : '.');
        },
      };
    }
    case 'paint': {
      const stage = page.locator('[data-stage-of-picture]');
      const box = await stage.boundingBox();
      if (!box) return null;
      const place = () =>
        [
          box.x + (0.25 + 0.5 * random.next()) * box.width,
          box.y + (0.25 + 0.5 * random.next()) * box.height,
        ] as const;
      const [from, over, to] = [place(), place(), place()];
      return {
        said: 'draws over the picture',
        changes: 'treatment',
        isOne: true,
        do: async () => {
          await page.mouse.move(...from);
          await page.mouse.down();
          await page.mouse.move(...over, { steps: 5 });
          await page.mouse.move(...to, { steps: 5 });
          await page.mouse.up();
        },
      };
    }
    case 'new take': {
      const takes = page.getByRole('group', { name: 'Takes of this photograph' });
      if ((await takes.getByRole('button', { name: /^Take / }).count()) > 3) return null;
      return {
        said: 'makes a new take',
        changes: 'takes',
        do: () => page.getByRole('button', { name: /^New take from/ }).click({ timeout: 5000 }),
      };
    }
    case 'other take': {
      const takes = page
        .getByRole('group', { name: 'Takes of this photograph' })
        .getByRole('button', { name: /^Take / });
      const there = await takes.count();
      if (there < 2) return null;
      const i = random.below(there);
      return {
        said: `opens take ${i + 1} of ${there}`,
        changes: 'takes',
        do: () => takes.nth(i).click({ timeout: 5000 }),
      };
    }
    case 'sheet':
      return {
        said: 'goes to the sheet',
        changes: 'nothing',
        goes: 'sheet',
        do: () => page.getByRole('banner').getByRole('link', { name: 'Walked in' }).click(),
      };
    case 'panels': {
      const key = random.oneOf(['y', 'l', 'p']);
      return {
        said: `opens and closes a panel by ${key}`,
        changes: 'nothing',
        do: async () => {
          await page.locator('[data-stage-of-picture]').focus();
          await page.keyboard.press(key);
          await page.waitForTimeout(60);
          await page.keyboard.press(key);
        },
      };
    }
  }
}

/** What is done on the sheet: it is ordered, filtered, scrolled, its prints made larger, and a print is opened. */
export function throwSheetAct(page: Page, random: Random): Act {
  const kind = random.oneOf(['order', 'filter', 'size', 'scroll', 'open', 'open', 'undo'] as const);
  const chosenOf = async (control: string) => {
    await page.getByRole('button', { name: new RegExp(control) }).click();
    const options = page.getByRole('option');
    await options.first().waitFor();
    await options.nth(random.below(await options.count())).click();
  };
  const act = (said: string, run: () => Promise<void>): Act => ({ said, changes: 'nothing', do: run });
  switch (kind) {
    case 'order':
      return act('orders the sheet otherwise', () => chosenOf('Order'));
    case 'filter':
      return act('shows some of the sheet', () => chosenOf('Show'));
    case 'size':
      return act('makes the prints larger or smaller', async () => {
        const all = page.getByRole('radiogroup', { name: /size/i }).getByRole('radio');
        if (await all.count()) await all.nth(random.below(await all.count())).click({ force: true });
      });
    case 'scroll':
      return act('scrolls the sheet', async () => {
        await page.getByRole('grid', { name: 'Photographs' }).hover();
        await page.mouse.wheel(0, random.below(1200) - 400);
      });
    case 'undo':
      return act('undo on the sheet, where there is none', () => page.keyboard.press('Control+z'));
    case 'open': {
      const prints = page.getByRole('grid', { name: 'Photographs' }).getByRole('row');
      return {
        ...act('opens a print', async () => {
          const count = await prints.count();
          if (!count) return;
          await prints.nth(random.below(count)).focus();
          await page.keyboard.press('Enter');
        }),
        goes: 'back',
      };
    }
  }
}
