import { Pipette } from 'lucide-react';
import { beneathStep } from '../../core/treatment/beneath';
import { IconButton } from '../ui/buttons';
import { useTools } from './tools';

/** A colour taken from the picture beneath the step. */
export function PickOnPicture({ label, onPick }: { label: string; onPick: (colour: string) => void }) {
  const { treatment, step, pick } = useTools();
  const from = beneathStep(treatment, step.id);
  return (
    <IconButton
      aria-label={`Pick ${label.toLowerCase()} on the picture`}
      onPress={() => pick({ from, onPick })}
    >
      <Pipette aria-hidden="true" />
    </IconButton>
  );
}
