import { StepBoard } from '../../boards/StepBoard';
import { useWork } from '../work';
import { useAtHand } from '../in-hand';
import type { SideProps } from './side-props';

export function AddSide({ onGoOn }: SideProps) {
  const { bench, picture } = useWork();
  const { side, calm, painting } = useAtHand();
  if (side.what !== 'add') return null;
  const { stage, beside } = side;
  return (
    <StepBoard
      key={`${stage} ${beside}`}
      picture={picture}
      treatment={calm}
      stage={stage}
      beside={beside}
      onTry={bench.tryOn}
      onAdd={usual => {
        onGoOn();
        if (beside !== undefined) return bench.addBeside(usual, beside);
        if (usual) bench.add(usual, stage);
        painting.set({ tool: 'brush', taking: false });
      }}
      onClose={() => {
        bench.closeSide();
        const from =
          beside === undefined ? `[data-add="${stage}"]` : `[data-holds~="${window.CSS.escape(beside)}"]`;
        document.querySelector<HTMLElement>(from)?.focus();
      }}
    />
  );
}
