import { useState } from 'react';
import { expect, it } from 'vitest';
import { page } from 'vitest/browser';
import { put } from '../testing/desk';
import { TakePicture } from './TakePicture';

/** The stand-in for the server (`web/vitest.config.ts`) gives a picture as wide as the number of its revision. */
it('the place of a take is empty until its own picture has come: none of another is seen in it', async () => {
  function Cell() {
    const [take, setTake] = useState({ id: '7f0c9a52-1a65-4c4e-9f5c-0d2b6a3c1e01', revision: 1 });
    return (
      <>
        <button type="button" onClick={() => setTake({ ...take, revision: take.revision + 1 })}>
          Saved
        </button>
        <TakePicture take={take} edge={480} />
      </>
    );
  }
  const { container } = await put(<Cell />);
  const picture = () => container.querySelector('img')!;
  const before = picture();
  await expect.poll(() => before.naturalWidth).toBe(1);
  await page.getByRole('button', { name: 'Saved' }).click();
  await expect.poll(() => picture().naturalWidth).toBe(2);
  // Another element: the one before is gone with its picture.
  expect(before.isConnected).toBe(false);
  expect(picture()).not.toBe(before);
});
