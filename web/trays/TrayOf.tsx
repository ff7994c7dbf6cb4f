import { Link2 } from 'lucide-react';
import { memo, useRef, type KeyboardEvent } from 'react';
import { mergeProps } from 'react-aria';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { Button as AriaButton, Focusable } from 'react-aria-components';
import styled from 'styled-components';
import { namesOfAlternatives, nameOfStep } from '../../words/step-names';
import type { PictureInfo } from '../engine/tiles';
import { SmallPicture } from '../print/SmallPicture';
import { HoverCard } from '../ui/hover-card';
import { StepFace } from './faces/StepFace';
import { Tray } from './trays';
import { useTrayDrag, type Landing } from './useTrayDrag';
import { openMenuOf } from './open-menu';

export interface TrayFaceProps {
  step: Step;
  picture: PictureInfo;
  upTo: Treatment;
  /** It follows a look that the series shares. */
  held: boolean;
}

/** What a tray shows: its step drawn from the settings, its name and strength. */
const TrayFace = memo(function TrayFace({
  step,
  picture,
  upTo,
  held,
  name,
}: TrayFaceProps & { name: string }) {
  return (
    <>
      <span className="dish">
        <StepFace step={step} picture={picture} upTo={upTo} />
      </span>
      <span className="name">
        <span>
          {held ? <Link2 aria-label="Held by a shared look" /> : null}
          {name}
        </span>
        <span>{step.enabled ? `${Math.round(step.strength * 100)}%` : 'Off'}</span>
      </span>
    </>
  );
});

/** Which of the alternatives in a tray is at work, on the rim of its dish; a press puts the next one in its place. */
const Turn = styled(AriaButton)`
  position: absolute;
  right: -3px;
  top: -7px;
  z-index: 1;
  min-width: 28px;
  height: 18px;
  padding: 0 4px;
  border-radius: 9px;
  border: 1px solid #6f6f6f;
  background: var(--paper-high);
  font-size: 11px;
  font-weight: 600;
  line-height: 16px;
  font-variant-numeric: tabular-nums;
  &[data-hovered] {
    background: #fff;
    border-color: var(--ink);
  }
`;

const Place = styled.div`
  position: relative;
  flex: none;
`;

/** A tray that can be chosen, and dragged to another place. */
export function TrayOf({
  tray,
  onNext,
  chosen,
  later,
  picked,
  tabbable,
  onChoose,
  onKey,
  onDrop,
  ...face
}: TrayFaceProps & {
  /** All that lies in it. */
  tray: readonly Step[];
  /** Puts the next alternative to work. */
  onNext: () => void;
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
  const name = tray.length > 1 ? namesOfAlternatives(tray)[tray.indexOf(step)] : nameOfStep(step);
  const place = `${tray.indexOf(step) + 1} of ${tray.length}`;
  const made = (
    <HoverCard
      placement="top"
      card={
        <>
          <SmallPicture picture={face.picture} treatment={face.upTo} width={240} height={160} />
          {name}, {share}
          {tray.length > 1 ? `, alternative ${place}. E puts the next one to work.` : ''}
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
          data-holds={tray.map(s => s.id).join(' ')}
          aria-description={tray.length > 1 ? `Alternative ${place}` : undefined}
          data-later={later || undefined}
          data-picked={picked || undefined}
          data-off={!step.enabled || undefined}
          aria-current={chosen ? 'step' : undefined}
          tabIndex={tabbable ? 0 : -1}
          data-landing={landing ?? undefined}
          style={{ opacity: isDragging ? 0.3 : 1 }}
          onClick={event => onChoose(event.shiftKey)}
          onContextMenu={event => {
            event.preventDefault();
            onChoose(false);
            openMenuOf(step.id);
          }}
          onKeyDown={event => {
            if (event.key === 'Enter') onChoose(event.shiftKey);
            else onKey(event);
          }}
        >
          <TrayFace {...face} name={name} />
        </Tray>
      </Focusable>
    </HoverCard>
  );
  if (tray.length < 2) return made;
  return (
    <Place>
      {made}
      <Turn
        excludeFromTabOrder
        aria-label={`${name}, alternative ${place}: the next one`}
        onPress={onNext}
        data-turn
      >
        {tray.indexOf(step) + 1}/{tray.length}
      </Turn>
    </Place>
  );
}
