import { useState } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { page } from 'vitest/browser';
import { put } from '../testing/desk';
import { Boundary } from './boundary';

/** A part of the screen that fails, beside one that does not. */

beforeEach(() => void vi.spyOn(console, 'error').mockImplementation(() => undefined));
afterEach(() => vi.restoreAllMocks());

let isBroken = true;
function Part({ thrown }: { thrown: Error }) {
  if (isBroken) throw thrown;
  return <p>All is well</p>;
}

function Screen({ thrown }: { thrown: Error }) {
  const [of, setOf] = useState(1);
  return (
    <>
      <button type="button" onClick={() => setOf(of + 1)}>
        Another
      </button>
      <Boundary what="This panel" resetBy={of}>
        <Part thrown={thrown} />
      </Boundary>
    </>
  );
}

describe('a part that fails', () => {
  it('says so in its place, and is there again when it is tried again', async () => {
    isBroken = true;
    await put(<Screen thrown={new Error('no such colour')} />);
    await expect.element(page.getByRole('alert')).toHaveTextContent('This panel stopped working.');
    await expect.element(page.getByRole('alert')).toHaveTextContent('no such colour');
    await page.getByRole('button', { name: 'Try again' }).click();
    await expect.element(page.getByRole('alert')).toBeVisible();
    isBroken = false;
    await page.getByRole('button', { name: 'Try again' }).click();
    await expect.element(page.getByText('All is well')).toBeVisible();
  });

  it('is tried anew for another step, photograph or screen', async () => {
    isBroken = true;
    await put(<Screen thrown={new Error('no such colour')} />);
    await expect.element(page.getByRole('alert')).toBeVisible();
    isBroken = false;
    await page.getByRole('button', { name: 'Another' }).click();
    await expect.element(page.getByText('All is well')).toBeVisible();
  });

  it('that could not be loaded is told as such', async () => {
    isBroken = true;
    await put(<Screen thrown={new TypeError('Failed to fetch dynamically imported module: x.js')} />);
    await expect.element(page.getByRole('alert')).toHaveTextContent('This panel could not be loaded.');
    await expect.element(page.getByRole('button', { name: 'Reload the page' })).toBeVisible();
  });
});
