import { Crop, History, Info, ListChecks, Redo2, SwatchBook, Undo2 } from 'lucide-react';
import { useCallback } from 'react';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { CompareButtons } from '../compare/CompareButtons';
import { useOtherFiles } from '../out/useOtherFiles';
import { SavingMark } from '../takes/SavingMark';
import { Takes } from '../takes/Takes';
import { Bar, BoardButton, Crumbs, Push } from '../ui/bar';
import { Button, IconButton } from '../ui/buttons';
import { useBenchState, useRested, useWork } from './work';

/** Past the bar and the neighbours: seen when the Tab key comes to it. */
const Skip = styled.button`
  position: absolute;
  left: 8px;
  top: 7px;
  z-index: 5;
  height: 30px;
  padding: 0 12px;
  background: var(--ink);
  color: #fff;
  border-radius: var(--r-field);
  &:not(:focus) {
    clip-path: inset(50%);
    pointer-events: none;
  }
`;

/** @param hasKeys the take was chosen on the Bench: the keys go on among the takes */
export function BenchBar({ hasKeys }: { hasKeys: boolean }) {
  const { bench, photograph, series, copying, carryOver, openTake } = useWork();
  const { session, toggle } = bench;
  const { take, undo, redo } = useRested();
  const what = useBenchState(s => s.side.what);
  const way = useBenchState(s => s.compared.shown.way);
  const navigate = useNavigate();
  const called = { id: take.id, text: `${photograph.title}, take ${take.letter}` };
  const otherFiles = useOtherFiles(photograph.seriesId, [called], { ready: () => session.flush() });
  const sendOut = async () => {
    await session.flush();
    void navigate(`/series/${photograph.seriesId}/send-out?takes=${take.id}`);
  };
  const { copy } = copying;
  const copyWhole = useCallback(() => copy(null), [copy]);
  const compareWithTake = useCallback((id: string) => bench.compareWith({ what: 'take', id }), [bench]);
  return (
    <Bar>
      <Crumbs
        screen="Bench"
        above={series ? [{ to: `/series/${series.id}`, text: series.title }] : []}
        here={photograph.title}
      />
      <Skip
        type="button"
        onClick={() => document.querySelector<HTMLElement>('[data-stage-of-picture]')?.focus()}
      >
        To the picture
      </Skip>
      <IconButton
        aria-label="Details of this photograph"
        onPress={() => bench.ask({ what: 'details' })}
        style={{ marginLeft: -8 }}
      >
        <Info aria-hidden="true" />
      </IconButton>
      <Takes
        photograph={photograph}
        session={session}
        hasKeys={hasKeys}
        onChoose={openTake}
        onCopy={copyWhole}
        onLayOn={copying.layOn}
        onCarryOver={carryOver}
        onMake={otherFiles.make}
        onTry={bench.tryOn}
        onCompare={compareWithTake}
      />
      <IconButton
        aria-label="Frame: crop, straighten, turn"
        aria-pressed={what === 'frame'}
        onPress={() => toggle({ what: 'frame' })}
      >
        <Crop aria-hidden="true" />
      </IconButton>
      <Push />
      <SavingMark session={session} />
      <span style={{ display: 'flex', gap: 6 }}>
        <BoardButton
          name="Methods"
          sign={<ListChecks aria-hidden="true" />}
          isOpen={what === 'methods' || what === 'method'}
          onPress={() => toggle({ what: 'methods' })}
        />
        <BoardButton
          name="Looks"
          sign={<SwatchBook aria-hidden="true" />}
          isOpen={what === 'looks'}
          onPress={() => toggle({ what: 'looks' })}
        />
      </span>
      <CompareButtons shown={way} onPress={bench.press} onRelease={bench.release} />
      <span style={{ display: 'flex' }}>
        <IconButton
          aria-label={undo === null ? 'Undo' : `Undo: ${undo}`}
          isDisabled={undo === null}
          onPress={() => void session.undo()}
        >
          <Undo2 aria-hidden="true" />
        </IconButton>
        <IconButton
          aria-label={redo === null ? 'Redo' : `Redo: ${redo}`}
          isDisabled={redo === null}
          onPress={() => void session.redo()}
        >
          <Redo2 aria-hidden="true" />
        </IconButton>
        <IconButton
          aria-label="History"
          aria-pressed={what === 'history'}
          onPress={() => toggle({ what: 'history' })}
        >
          <History aria-hidden="true" />
        </IconButton>
      </span>
      <Button $ink data-tour="send-out" onPress={() => void sendOut()}>
        Send out
      </Button>
      {otherFiles.dialog}
    </Bar>
  );
}
