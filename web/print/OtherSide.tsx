import { useImperativeHandle, type Ref } from 'react';
import styled from 'styled-components';
import type { Rectangle } from '../../core/frame/geometry';
import type { Treatment } from '../../core/treatment/treatment';
import type { ShowRequest } from '../engine/screen';
import type { Reading } from '../engine/surface';
import type { PictureInfo } from '../engine/tiles';
import { Fault } from './labels';
import type { PointerPlace } from './pointer-place';
import { useDrawing } from './useDrawing';
import type { Hanging } from './useHanging';

const Pane = styled.div`
  position: absolute;
  pointer-events: none;
`;

/** Reads what is drawn there, by device pixels of its pane. */
export interface OtherReader {
  read: (x: number, y: number) => Reading | null;
}

/** The other of two pictures that are compared, drawn on a canvas of its own. */
export function OtherSide({
  picture,
  title,
  treatment,
  hanging,
  pane,
  within,
  marks,
  pointer,
  reader,
}: {
  picture: PictureInfo;
  title: string;
  treatment: Treatment;
  hanging: Pick<Hanging, 'viewport' | 'view' | 'margin' | 'at' | 'ratio'>;
  /** Where it hangs on the wall, in device pixels. */
  pane: Rectangle;
  /** What of the pane is seen. */
  within: Rectangle | null;
  marks: ShowRequest['marking'];
  pointer: PointerPlace;
  reader: Ref<OtherReader>;
}) {
  const { home, read, fault } = useDrawing({
    picture,
    title,
    treatment,
    hanging,
    slot: 1,
    pointer,
    marks,
  });
  useImperativeHandle(reader, () => ({ read }), [read]);
  const px = (length: number) => `${length / hanging.ratio}px`;
  const covered = within
    ? `inset(${px(within.y)} ${px(pane.width - within.x - within.width)} ${px(pane.height - within.y - within.height)} ${px(within.x)})`
    : undefined;
  return (
    <Pane
      style={{
        left: px(pane.x),
        top: px(pane.y),
        width: px(pane.width),
        height: px(pane.height),
        clipPath: covered,
      }}
    >
      <div ref={home} />
      {fault ? <Fault role="alert">{fault}</Fault> : null}
    </Pane>
  );
}
