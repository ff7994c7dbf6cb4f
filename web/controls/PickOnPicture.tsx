import { Pipette } from 'lucide-react';
import { IconButton } from '../ui/buttons';
import { useTools } from './tools';

/** A colour taken from the picture beneath the step. */
export function PickOnPicture({ label, onPick }: { label: string; onPick: (colour: string) => void }) {
  const { treatment, step, pick } = useTools();
  const at = treatment.steps.findIndex(s => s.id === step.id);
  const from = { ...treatment, strength: 1, steps: treatment.steps.slice(0, at) };
  return (
    <IconButton
      aria-label={`Pick ${label.toLowerCase()} on the picture`}
      onPress={() => pick({ from, onPick })}
    >
      <Pipette aria-hidden="true" />
    </IconButton>
  );
}
