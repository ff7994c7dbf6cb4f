import { TintPanel } from '../../tinting/TintPanel';
import { useWork } from '../work';
import { useAtHand } from '../in-hand';

export function TintSide() {
  const { bench, picture, layApart } = useWork();
  const { calm, tinting, chosen } = useAtHand();
  return (
    <TintPanel
      picture={picture}
      treatment={calm}
      tinting={tinting}
      chosen={chosen}
      onChoose={bench.choose}
      onTinted={layApart}
      onTry={bench.tryOn}
      onClose={bench.closeSide}
    />
  );
}
