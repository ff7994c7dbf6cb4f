import styled from 'styled-components';
import type { Region } from '../engine/small';
import type { OnWall } from './tool';

const Frame = styled.div`
  position: absolute;
  pointer-events: none;
  border: 1.5px dashed #fff;
  outline: 1px solid rgb(0 0 0 / 0.55);
`;

/** The region that the charts are of. */
export function RegionFrame({ region, onWall }: { region: Region; onWall: OnWall }) {
  return (
    <Frame
      data-region
      style={{
        left: onWall.left + region.x * onWall.width,
        top: onWall.top + region.y * onWall.height,
        width: region.width * onWall.width,
        height: region.height * onWall.height,
      }}
    />
  );
}
