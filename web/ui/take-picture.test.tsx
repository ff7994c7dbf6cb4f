import { useState } from 'react';
import { expect, it, vi } from 'vitest';
import { page } from 'vitest/browser';
import { put } from '../testing/desk';
import { TakePicture } from './TakePicture';

/** A picture of each revision, there at once. */
vi.mock('../app/api', async importOriginal => ({
  ...(await importOriginal<object>()),
  pictureAddress: ({ revision }: { revision: number }) =>
    `data:image/svg+xml,<svg xmlns="http://www.w3.org/2000/svg" width="${revision}" height="1"/>`,
}));

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
