import { useEffect } from 'react';
import { BenchPicture } from './BenchPicture';
import { SidePanel } from './SidePanel';
import { useBench } from './work';
import { AtHandContext, useWorkplace } from './in-hand';

/**
 * The picture and what stands beside it: what follows every movement of a control.
 * @param around what stands about the picture is there too
 */
export function Workplace({ around, chosen }: { around: boolean; chosen: string | null }) {
  const { session } = useBench();
  const atHand = useWorkplace(chosen);
  // What is pressed acts on what is shown; strokes begin from the newest by themselves.
  useEffect(() => {
    const settle = (event: Event) => {
      const { target } = event;
      if (target instanceof Element && target.closest('[data-stage-of-picture]')) return;
      session.settle();
    };
    window.addEventListener('pointerdown', settle, true);
    window.addEventListener('keydown', settle, true);
    return () => {
      window.removeEventListener('pointerdown', settle, true);
      window.removeEventListener('keydown', settle, true);
    };
  }, [session]);
  return (
    <AtHandContext value={atHand}>
      <BenchPicture />
      <SidePanel isThere={around} />
    </AtHandContext>
  );
}
