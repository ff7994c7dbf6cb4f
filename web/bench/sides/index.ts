import { lazily, type Lazily } from '../../ui/lazily';
import type { Side } from '../side';
import type { SideProps } from './side-props';

/** What may stand beside the picture, each a part of the program of its own. */

interface Beside {
  /** What it is called; a step has its own name. */
  name: string;
  Show: Lazily<SideProps>;
}

const MethodsSide = lazily<SideProps>(async () => (await import('./MethodsSide')).MethodsSide);

export const sides: Record<Side['what'], Beside> = {
  step: { name: 'No step chosen', Show: lazily(async () => (await import('./StepSide')).StepSide) },
  add: { name: 'Add a step', Show: lazily(async () => (await import('./AddSide')).AddSide) },
  history: { name: 'History', Show: lazily(async () => (await import('./HistorySide')).HistorySide) },
  looks: { name: 'Looks', Show: lazily(async () => (await import('./LooksSide')).LooksSide) },
  tint: { name: 'Tint', Show: lazily(async () => (await import('./TintSide')).TintSide) },
  frame: { name: 'Frame', Show: lazily(async () => (await import('./FrameSide')).FrameSide) },
  methods: { name: 'Methods', Show: MethodsSide },
  method: { name: 'Method', Show: MethodsSide },
};

/** Fetches all of them, so that none is waited for. */
export const sidesAhead = () => Object.values(sides).forEach(({ Show }) => Show.ahead());
