import { expect, it } from 'vitest';
import { page } from 'vitest/browser';
import { put, standing } from '../testing/desk';
import { useShownTake } from './useShownTake';

/** Which take is on the Bench while what is known of the photograph is being asked for. */

function Shown({ current, isAsked }: { current: string; isAsked: boolean }) {
  const takes = ['A', 'B', 'C'].map(id => ({ id }));
  const shown = useShownTake({ currentTakeId: current, takes }, isAsked);
  return (
    <>
      <output>{shown.current}</output>
      <button type="button" onClick={() => shown.open('C')}>
        Open C
      </button>
    </>
  );
}

const isShown = (take: string) => expect.element(page.getByRole('status')).toHaveTextContent(take);

it('is the one that the server says, where what was known was of before', async () => {
  const screen = await put(<Shown current="A" isAsked />);
  await isShown('A');
  await screen.rerender(standing(<Shown current="B" isAsked={false} />));
  await isShown('B');
});

it('is the one that was opened meanwhile, whatever the answer says', async () => {
  const screen = await put(<Shown current="A" isAsked />);
  await page.getByRole('button').click();
  await screen.rerender(standing(<Shown current="B" isAsked={false} />));
  await isShown('C');
});

it('stays when the photograph is later made to stand at another, in another window', async () => {
  const screen = await put(<Shown current="A" isAsked={false} />);
  await screen.rerender(standing(<Shown current="A" isAsked />));
  await screen.rerender(standing(<Shown current="B" isAsked={false} />));
  await isShown('A');
});
