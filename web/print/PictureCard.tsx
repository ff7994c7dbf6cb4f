import { Ellipsis } from 'lucide-react';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import type { Treatment } from '../../core/treatment/treatment';
import type { PictureInfo } from '../engine/tiles';
import { SmallPicture } from './SmallPicture';
import { pointed } from './useTrying';
import { IconButton } from '../ui/buttons';
import { Menu } from '../ui/overlays';

const Frame = styled.div`
  position: relative;
  background: var(--paper-high);
  box-shadow: var(--shade-label);
  border-radius: var(--r-label);
  min-width: 0;
  > button:first-child {
    display: block;
    width: 100%;
    padding: 4px 4px 5px;
    text-align: left;
    border-radius: inherit;
    outline: none;
  }
  > button:first-child:focus-visible {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 1px;
  }
  canvas {
    display: block;
    width: 100%;
    aspect-ratio: 122 / 81;
    background: #d2d2d2;
  }
  b,
  i {
    display: block;
    font-style: normal;
    padding: 0 3px;
    white-space: nowrap;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  b {
    font-weight: 550;
    font-size: var(--t-small);
    margin-top: 5px;
  }
  i {
    font-size: var(--t-small);
    color: var(--ink-2);
  }
  &[data-tried] {
    outline: 2px solid var(--lamp);
    box-shadow:
      0 0 0 3px var(--lamp-deep),
      var(--shade-label);
  }
  .more {
    position: absolute;
    right: 1px;
    bottom: 1px;
    width: 24px;
    height: 24px;
  }
`;

/** What a choice would make of this photograph, small: pointed at it is tried, pressed it is taken. */
export function PictureCard<A extends string>({
  name,
  says,
  picture,
  treatment,
  shared,
  isTried,
  isChosen,
  actions,
  onTry,
  onTake,
  onAction,
}: {
  name: string;
  /** What stands beneath its name. */
  says?: string;
  picture: PictureInfo;
  /** The photograph's treatment with it; undefined where it has no room for it. */
  treatment: Treatment | undefined;
  /** How many of its first steps the other cards have as well. */
  shared?: number;
  isTried: boolean;
  /** Of several one is chosen: whether it is this one. */
  isChosen?: boolean;
  actions?: readonly { id: A; text: string }[];
  onTry?: (on: boolean) => void;
  onTake: () => void;
  onAction?: (action: A) => void;
}): ReactNode {
  return (
    <Frame
      data-context={actions ? '' : undefined}
      data-tried={isTried || undefined}
      {...pointed(on => onTry?.(on))}
    >
      <button
        type="button"
        data-card={name}
        aria-label={says ? `${name}, ${says}` : name}
        aria-pressed={isChosen}
        onFocus={() => onTry?.(true)}
        onBlur={() => onTry?.(false)}
        onClick={onTake}
      >
        {treatment ? (
          <SmallPicture picture={picture} treatment={treatment} width={122} height={81} shared={shared} />
        ) : (
          <canvas />
        )}
        <b title={name}>{name}</b>
        {says ? <i>{says}</i> : null}
      </button>
      {actions ? (
        <Menu
          label={`More for ${name}`}
          trigger={
            <IconButton className="more" aria-label={`More for ${name}`}>
              <Ellipsis aria-hidden="true" />
            </IconButton>
          }
          sections={[{ entries: [...actions] }]}
          onAction={action => onAction?.(action as A)}
        />
      ) : null}
    </Frame>
  );
}
