import { takenUpAt } from '../../core/methods/run';
import type { Method } from '../../core/methods/schema';
import { methods } from '../../words/methods';
import type { MethodPanelProps } from './method-panel-props';
import { MethodPanel } from './MethodPanel';
import { MethodsBoard } from './MethodsBoard';
import { leftAt } from './taken-up';

/** The page of a method that stands beside the picture. */
interface At {
  what: 'method';
  method: string;
  page: string;
}

/** The methods to choose from, or one of them at a page. */
export function Methods({
  at,
  onAt,
  onAfresh,
  ...rest
}: Omit<MethodPanelProps, 'method' | 'at' | 'onAt'> & {
  at: At | null;
  onAt: (at: At) => void;
  onAfresh: () => void;
}) {
  const method = methods.find(m => m.key === at?.method);
  if (at && method) {
    return (
      <MethodPanel
        key={method.key}
        {...rest}
        method={method}
        at={at.page}
        onAt={page => onAt({ what: 'method', method: method.key, page })}
      />
    );
  }
  const begin = (chosen: Method) => {
    const left = leftAt(rest.takeId);
    const last = takenUpAt(chosen, chosen.pages, rest.calm);
    const page = left?.method === chosen.key ? left.page : chosen.pages[last ?? 0].key;
    rest.onTry(null);
    onAt({ what: 'method', method: chosen.key, page });
  };
  return (
    <MethodsBoard
      picture={rest.picture}
      treatment={rest.calm}
      onTry={rest.onTry}
      onChoose={begin}
      onAfresh={onAfresh}
      onClose={rest.onClose}
    />
  );
}
