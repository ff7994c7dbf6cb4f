import { useCallback } from 'react';
import { TintPanel } from '../../tinting/TintPanel';
import { useWork, type Work } from '../work';
import { useAtHand } from '../workplace';

export function TintSide() {
  const { bench, picture, lay } = useWork();
  const { calm, tinting, chosen } = useAtHand();
  // Each stroke is undone alone.
  const onTinted = useCallback(
    (...[made, label, step]: Parameters<Work['lay']>) => lay(made, label, step, true),
    [lay],
  );
  return (
    <TintPanel
      picture={picture}
      treatment={calm}
      tinting={tinting}
      chosen={chosen}
      onChoose={bench.choose}
      onTinted={onTinted}
      onTry={bench.tryOn}
      onClose={bench.closeSide}
    />
  );
}
