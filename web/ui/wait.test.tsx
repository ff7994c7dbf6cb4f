import { expect, it } from 'vitest';
import { page } from 'vitest/browser';
import { put } from '../testing/desk';
import { Wait } from './wait';

/** A screen before it is there. */

it('has no heading without words, and says after a moment that it loads', async () => {
  await put(<Wait />);
  expect(page.getByRole('heading').elements()).toEqual([]);
  await expect.element(page.getByRole('status')).toHaveTextContent('Loading …');
  expect(page.getByRole('heading').elements()).toEqual([]);
});

it('says what is not to be had, and where the way back is', async () => {
  await put(<Wait problem="There is nothing at this address." />);
  await expect.element(page.getByRole('heading')).toHaveTextContent('Unavailable');
  await expect.element(page.getByRole('alert')).toHaveTextContent('There is nothing at this address.');
  await expect.element(page.getByRole('link', { name: 'Back to the shelf' })).toHaveAttribute('href', '/');
});
