import { Link2 } from 'lucide-react';
import { memo, useRef, type KeyboardEvent } from 'react';
import { mergeProps } from 'react-aria';
import type { Step, Treatment } from '../../core/treatment/schema';
import { Focusable } from 'react-aria-components';
import { nameOfStep } from '../takes/useEdits';
import type { PictureInfo } from '../engine/tiles';
import { SmallPicture } from '../print/SmallPicture';
import { HoverCard } from '../ui/hover-card';
import { StepFace } from './faces/StepFace';
import { Tray } from './trays';
import { useTrayDrag, type Landing } from './useTrayDrag';

export interface TrayFaceProps {
  step: Step;
  picture: PictureInfo;
  upTo: Treatment;
  /** It follows a look that the series shares. */
  held: boolean;
}

/** What a tray shows: its step drawn from the settings, its name and strength. */
export const TrayFace = memo(function TrayFace({ step, picture, upTo, held }: TrayFaceProps) {
  return (
    <>
      <span className="dish">
        <StepFace step={step} picture={picture} upTo={upTo} />
      </span>
      <span className="name">
        <span>
          {held ? <Link2 aria-label="Held by a shared look" /> : null}
          {nameOfStep(step)}
        </span>
        <span>{step.enabled ? `${Math.round(step.strength * 100)}%` : 'Off'}</span>
      </span>
    </>
  );
});

/** A tray that can be chosen, and dragged to another place. */
export function TrayOf({
  chosen,
  later,
  picked,
  tabbable,
  onChoose,
  onKey,
  onDrop,
  ...face
}: TrayFaceProps & {
  chosen: boolean;
  later: boolean;
  /** It is in the range that a copy takes. */
  picked: boolean;
  tabbable: boolean;
  /** With the whole range up to it, or alone. */
  onChoose: (range: boolean) => void;
  onKey: (event: KeyboardEvent) => void;
  /** Another one is dropped before or after it. */
  onDrop: (dropped: string, where: Landing) => void;
}) {
  const { step } = face;
  const ref = useRef<HTMLDivElement>(null);
  const { dragProps, dropProps, isDragging, landing } = useTrayDrag(step.id, ref, onDrop);
  const share = step.enabled ? `${Math.round(step.strength * 100)}%` : 'off';
  return (
    <HoverCard
      placement="top"
      card={
        <>
          <SmallPicture picture={face.picture} treatment={face.upTo} width={240} height={160} />
          {nameOfStep(step)}, {share}
        </>
      }
    >
      <Focusable>
        <Tray
          as="div"
          role="button"
          ref={ref}
          {...mergeProps(dragProps, dropProps)}
          data-tray={step.id}
          data-later={later || undefined}
          data-picked={picked || undefined}
          data-off={!step.enabled || undefined}
          aria-current={chosen ? 'step' : undefined}
          tabIndex={tabbable ? 0 : -1}
          data-landing={landing ?? undefined}
          style={{ opacity: isDragging ? 0.3 : 1 }}
          onClick={event => onChoose(event.shiftKey)}
          onContextMenu={event => {
            // The menu of a step is that of its panel.
            event.preventDefault();
            onChoose(false);
            setTimeout(
              () =>
                document.querySelector<HTMLElement>('aside:not([inert]) button[aria-label="More"]')?.click(),
              120,
            );
          }}
          onKeyDown={event => {
            if (event.key === 'Enter') onChoose(event.shiftKey);
            else onKey(event);
          }}
        >
          <TrayFace {...face} />
        </Tray>
      </Focusable>
    </HoverCard>
  );
}
