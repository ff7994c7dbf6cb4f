import type { Page } from '@playwright/test';
import type { Random } from './random';

/** What a person does at the Bench without having thought of it: each act with what it may change. */

export interface Act {
  /** As it is told when the walk fails. */
  said: string;
  /** What of the treatment it may change: the chosen step alone, anything of this take, or nothing. */
  changes: 'step' | 'take' | 'nothing';
  /** The photograph that is to be open afterwards; the same where it is left out. */
  goes?: -1 | 1;
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
        changes: 'take',
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
        changes: 'take',
        do: () => page.keyboard.press(kind === 'undo' ? 'Control+z' : 'Control+Shift+z'),
      };
    case 'switch': {
      if (!count) return null;
      const i = random.below(count);
      return {
        said: `switches tray ${i + 1} by Space`,
        changes: 'take',
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
        changes: 'take',
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
        changes: 'take',
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
