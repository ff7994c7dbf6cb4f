import type { Method } from '../../core/methods/schema';
import type { Treatment } from '../../core/treatment/treatment';
import type { PictureInfo } from '../engine/tiles';
import type { Sharing } from '../laying/useSharing';
import type { PickColour } from '../print/usePicking';
import type { Tried } from '../takes/tried';
import type { Edits, SetSetting } from '../takes/edits';

/** What a method at work is given, and what it asks for. */
export interface MethodPanelProps {
  picture: PictureInfo;
  /** The newest treatment, and the one without what is still moving. */
  treatment: Treatment;
  calm: Treatment;
  takeId: string;
  method: Method;
  /** The page that it is at, by its key. */
  at: string;
  edits: Edits;
  setOf: (stepId: string) => SetSetting;
  onAt: (page: string) => void;
  onChoose: (stepId: string) => void;
  onLay: (treatment: Treatment, label: string, stepId?: string) => void;
  /** Must stay the same function. */
  onTry: (tried: Tried | null) => void;
  pick: PickColour;
  sharing: Sharing;
  onSheet: () => void;
  onClose: () => void;
}
