import { useEffect, useEffectEvent, useRef, useState } from 'react';
import { layPage, pagesFor, stepOf, takeOff, takenUpAt } from '../../core/methods/run';
import type { Page } from '../../core/methods/schema';
import type { Treatment } from '../../core/treatment/treatment';
import type { MethodPanelProps } from './method-panel-props';
import { leaveAt } from './taken-up';
import { readingOf, useBare } from './useReading';

/**
 * Going from page to page: what is pressed while the picture is being read waits for its turn, so that no page is passed by. Each page is
 * set for the newest treatment.
 */
export function useTurning({
  picture,
  calm,
  takeId,
  method,
  at,
  edits,
  onAt,
  onChoose,
  onLay,
}: MethodPanelProps) {
  const bare = useBare(calm);
  const [pages, setPages] = useState<readonly Page[]>(method.pages);
  const [isBusy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const now = useRef({ pages, at });
  const waiting = useRef(Promise.resolve());
  const isLeft = useRef(false);
  const inTurn = (work: () => Promise<void>) => {
    setBusy(true);
    const mine = waiting.current
      // What was left does nothing more.
      .then(() => (isLeft.current ? undefined : work()))
      .then(
        () => setProblem(null),
        (error: Error) => setProblem(error.message),
      )
      .finally(() => {
        if (waiting.current === mine) setBusy(false);
      });
    waiting.current = mine;
  };
  const placeNow = () =>
    Math.max(
      0,
      now.current.pages.findIndex(p => p.key === now.current.at),
    );

  const show = (to: Page, of: Treatment = edits.now()) => {
    now.current.at = to.key;
    leaveAt(takeId, { method: method.key, page: to.key });
    onAt(to.key);
    const step = stepOf(method, to, of);
    if (step) onChoose(step.id);
  };
  /** Lays what a page does on the newest treatment, set for it as it is, and goes there. */
  const lay = async (to: Page) => {
    const { reading, facts } = await readingOf(picture, edits.now());
    if (isLeft.current) return;
    const made = layPage(method, to, edits.now(), reading, facts);
    const step = stepOf(method, to, made);
    if (made !== edits.now()) onLay(made, `${method.title}: ${to.name.toLowerCase()}`, step?.id);
    show(to, made);
  };
  const takeOffNow = () => {
    const page = now.current.pages[placeNow()];
    const without = takeOff(method, page, edits.now());
    if (without !== edits.now()) edits.commit(without, `${method.title}: without ${page.short}`, true);
  };
  const layNext = async () => {
    const next = now.current.pages.at(placeNow() + 1);
    if (next) await lay(next);
  };

  const begin = useEffectEvent(() => {
    isLeft.current = false;
    inTurn(async () => {
      const { facts } = await readingOf(picture, bare);
      const found = pagesFor(method, facts);
      now.current.pages = found;
      setPages(found);
      const page = found[placeNow()];
      // The first page is laid when a method is begun; one that is taken up again is as it was left.
      if (page === found[0] && takenUpAt(method, found, edits.now()) === null) await lay(page);
      else show(page);
    });
  });
  useEffect(() => {
    begin();
    return () => {
      isLeft.current = true;
    };
  }, []);

  return {
    pages,
    place: Math.max(
      0,
      pages.findIndex(p => p.key === at),
    ),
    isBusy,
    problem,
    show,
    lay: (page: Page) => inTurn(() => lay(page)),
    goOn: () => inTurn(layNext),
    skip: () =>
      inTurn(() => {
        takeOffNow();
        return layNext();
      }),
  };
}
