import { FramePanel } from '../../frame/FramePanel';
import { useWork } from '../work';
import { useAtHand } from '../in-hand';

export function FrameSide() {
  const { picture } = useWork();
  return <FramePanel framing={useAtHand().framing} picture={picture} />;
}
