import type { ComponentType } from 'react';
import { BrushCursor } from '../../areas/BrushCursor';
import { RoughStrokes } from '../../areas/RoughStrokes';
import { ShapeHandles } from '../../areas/ShapeHandles';
import { CropOverlay } from '../../frame/CropOverlay';
import { RegionFrame } from '../../print/RegionFrame';
import type { OnWall } from '../../print/tool';
import type { Hanging } from '../../print/useHanging';
import { StripOnPicture } from '../../teststrip/StripOnPicture';
import { PulledLabel } from '../../tools/PulledLabel';
import { StepHandles } from '../../tools/StepHandles';
import { useBench, useWork } from '../work';
import { brushOnWall, useAtHand, type AtHand } from '../in-hand';

export interface Over {
  /** Where the picture lies on the wall. */
  onWall: OnWall;
  hanging: Hanging;
}

/** Something that lies over the picture, and when. */
interface Overlay {
  name: string;
  when: (at: AtHand) => boolean;
  Show: ComponentType<Over>;
}

const isPainted = ({ seen }: AtHand) => seen.isAreaOpen && seen.isTreatedSeen;

function Region({ onWall }: Over) {
  const { region } = useAtHand().region;
  return region && <RegionFrame region={region} onWall={onWall} />;
}

function Strip({ hanging }: Over) {
  const { picture } = useWork();
  const { strip, litOf } = useAtHand();
  return <StripOnPicture strip={strip} picture={picture} hanging={hanging} shown={litOf} />;
}

function Crop({ onWall }: Over) {
  const { picture } = useWork();
  return <CropOverlay framing={useAtHand().framing} picture={picture} onWall={onWall} />;
}

function Tinted({ onWall }: Over) {
  const { picture } = useWork();
  const { treatment, painting, tinting } = useAtHand();
  const { area } = painting;
  return <RoughStrokes {...{ picture, treatment, area, onWall }} drawn={tinting.drawn} />;
}

function Found({ onWall }: Over) {
  const { picture } = useWork();
  const { treatment, painting } = useAtHand();
  const { area, finding } = painting;
  return <RoughStrokes {...{ picture, treatment, area, onWall }} drawn={finding.drawn} />;
}

function Brush({ onWall }: Over) {
  const { picture } = useWork();
  const at = useAtHand();
  const { brush, taking } = at.painting;
  const radius = brushOnWall(at, picture, onWall.width);
  if (radius === null) return null;
  return <BrushCursor radius={radius} hardness={brush.hardness} taking={taking} onWall={onWall} />;
}

function Shapes({ onWall }: Over) {
  const { picture } = useWork();
  const { preview, commit } = useBench().edits;
  const { treatment, painting } = useAtHand();
  const { area } = painting;
  if (area === null) return null;
  return <ShapeHandles {...{ picture, treatment, area, onWall }} onPreview={preview} onCommit={commit} />;
}

function Pulled({ onWall }: Over) {
  const { pulled } = useAtHand();
  return pulled && <PulledLabel pulled={pulled} onWall={onWall} />;
}

function Handles({ onWall }: Over) {
  const { now, preview, commit } = useBench().edits;
  const { step } = useAtHand();
  return step && <StepHandles {...{ step, onWall, now }} onPreview={preview} onCommit={commit} />;
}

/** What lies over the picture, from below to above. */
export const overlays: readonly Overlay[] = [
  { name: 'region', when: at => at.region.region !== null && at.side.what === 'step', Show: Region },
  { name: 'strip', when: at => at.seen.isStrip, Show: Strip },
  { name: 'crop', when: at => at.framing.open, Show: Crop },
  { name: 'tinted', when: at => at.side.what === 'tint' && at.seen.isTreatedSeen, Show: Tinted },
  { name: 'found', when: at => isPainted(at) && at.painting.tool === 'finder', Show: Found },
  { name: 'brush', when: isPainted, Show: Brush },
  { name: 'shapes', when: isPainted, Show: Shapes },
  { name: 'pulled', when: at => at.pulled !== null, Show: Pulled },
  {
    name: 'handles',
    when: at => at.side.what === 'step' && at.seen.isTreatedSeen && !!at.step?.enabled,
    Show: Handles,
  },
];
