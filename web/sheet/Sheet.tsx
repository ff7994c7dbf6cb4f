import { useQueryClient } from '@tanstack/react-query';
import { Redo2, Undo2 } from 'lucide-react';
import { useCallback, useEffect, useEffectEvent, useMemo, useState } from 'react';
import type { Selection } from 'react-aria-components';
import { useNavigate, useParams } from 'react-router';
import styled from 'styled-components';
import { evenness } from '../../core/analysis/evenness';
import type { Photograph } from '../../contract/photographs';
import type { Series } from '../../contract/series';
import { currentTake, messageOf } from '../app/api';
import { useEvenness, useSeries } from '../app/queries';
import { chooseFiles, FileDrop } from '../import/FileDrop';
import { LayDown } from '../import/LayDown';
import { useLaidDown } from '../import/useLaidDown';
import { useOtherFiles } from '../out/useOtherFiles';
import { bringIn } from '../import/imports';
import { Bar, Crumbs, Push, WallTones } from '../ui/bar';
import { KeysHelp } from '../ui/keys-help';
import { IconButton, Segments } from '../ui/buttons';
import { Picker } from '../ui/overlays';
import { useTour } from '../app/tour';
import { useKeys } from '../app/useKeys';
import { Wait } from '../ui/wait';
import { Contact, sizes, type ThumbSize } from './Contact';
import { BatchBar } from './BatchBar';
import { EvennessStrip } from './EvennessStrip';
import { LayOnMany, type Doing } from './LayOnMany';
import { MORE_FOR_SELECTED, SheetActs } from './SheetActs';
import { useDeeds, useLine } from '../app/deeds';
import {
  filters,
  filterWords,
  inOrder,
  orders,
  orderWords,
  shown,
  type Filter,
  type Order,
  type Told,
} from './order';
import { SeriesPaper } from './SeriesPaper';
import { useSheetDeeds } from './useSheetDeeds';

const Frame = styled.div`
  height: 100vh;
  display: grid;
  grid-template-rows: var(--bar) minmax(0, 1fr) auto auto auto;
`;

const Table = styled.main`
  background: linear-gradient(var(--wall-edge), var(--wall) 14px);
  display: grid;
  grid-template-columns: 212px minmax(0, 1fr);
  column-gap: 26px;
  padding: 10px 8px 0 26px;
  min-height: 0;
  grid-template-rows: minmax(0, 1fr);
`;

/** In the place of prints while there are none. */
const Nothing = styled.div`
  grid-area: 1 / 2;
  display: grid;
  padding: 34px;
  align-content: start;
  z-index: 1;
`;

const OrderOf = styled.div`
  display: flex;
  align-items: center;
  gap: 9px;
  color: var(--ink-2);
  button {
    color: var(--ink);
  }
`;

const SIZE_KEY = 'lampwash.thumbnails';
const keptSize = (): ThumbSize => sizes.find(s => s === localStorage.getItem(SIZE_KEY)) ?? 'medium';

/** The Sheet: one series as a contact sheet. */
export function Sheet() {
  const { seriesId = '' } = useParams();
  const series = useSeries(seriesId);
  if (series.isError) return <Wait problem={messageOf(series.error)} />;
  if (!series.data) return <Wait />;
  return <SheetOf key={seriesId} series={series.data} />;
}

/** What is measured of the series, each photograph held against its middle. */
function useTold(seriesId: string) {
  const { data } = useEvenness(seriesId);
  return useMemo(() => {
    if (!data) return null;
    const even = evenness(data.photographs.map(p => p.measures));
    const told = data.photographs.map(({ id, measures }, i): [string, Told] => [
      id,
      { measures, isFallen: (even.placed[i]?.falls.length ?? 0) > 0 },
    ]);
    return { data, even, told: new Map(told) };
  }, [data]);
}
const nothing: ReadonlyMap<string, Told> = new Map();

function SheetOf({ series }: { series: Series }) {
  const { photographs: hung } = series;
  const client = useQueryClient();
  const navigate = useNavigate();
  const deeds = useSheetDeeds(series);
  const { past, future } = useLine(series.id);
  const [size, setSize] = useState<ThumbSize>(keptSize);
  const [order, setOrder] = useState<Order>('hung');
  const [filter, setFilter] = useState<Filter>('all');
  const [selection, setSelection] = useState<Selection>(new Set());
  const [doing, setDoing] = useState<Doing | null>(null);
  const measured = useTold(series.id);
  const told = measured?.told ?? nothing;
  const photographs = useMemo(
    () => inOrder(shown(hung, filter, told), order, told),
    [hung, filter, order, told],
  );
  // It can still be undone after a reload.
  const batchKey = `lampwash.batch.${series.id}`;
  const [batch, setBatch] = useState(() => sessionStorage.getItem(batchKey));
  const show = (id: string | null) => {
    if (id) sessionStorage.setItem(batchKey, id);
    else sessionStorage.removeItem(batchKey);
    setBatch(id);
  };
  const recall = useEffectEvent(() => {
    const known = useDeeds.getState().lines[series.id];
    if (batch && !known) deeds.remember(batch, 'The last change of many');
  });
  useEffect(() => recall(), []);

  const tellTour = useTour(tour => tour.tell);
  useEffect(() => tellTour({ photographs: hung.length }), [tellTour, hung.length]);

  const selected = photographs.filter(p => selection === 'all' || selection.has(p.id));
  const isTreated = (p: Photograph) => currentTake(p).steps.length > 0;
  const otherFiles = useOtherFiles(
    series.id,
    selected.map(p => ({ id: p.currentTakeId, text: `${p.title}, take ${currentTake(p).letter}` })),
  );
  const putAside = () => {
    setSelection(new Set());
    deeds.putAside(selected);
  };
  /** Opens what may be done with a print: with all that are selected, where it is one of them. */
  const openMenu = (id: string) => {
    if (selection !== 'all' && !selection.has(id)) setSelection(new Set([id]));
    // The button is there once something is selected.
    setTimeout(() => document.querySelector<HTMLElement>(`[aria-label="${MORE_FOR_SELECTED}"]`)?.click());
  };
  useKeys({
    putAside: () => (selected.length ? putAside() : false),
    undo: () => (past.length ? deeds.undo() : false),
    redo: () => (future.length ? deeds.redo() : false),
  });
  const add = useCallback((files: File[]) => bringIn(files, series.id, client), [series.id, client]);
  const laidDown = useLaidDown({
    onPictures: add,
    onTreatment: useCallback((treatment, name) => setDoing({ name, treatment }), []),
  });
  const isHung = order === 'hung' && filter === 'all';
  const hangSo = () => {
    // Those that are not shown stay behind the ones that are.
    const rest = hung.filter(p => !photographs.includes(p));
    deeds.order([...photographs, ...rest].map(p => p.id));
    setOrder('hung');
  };
  const last = past.at(-1);
  const [next] = future;
  const isKnown = {
    hung: true,
    name: true,
    taken: hung.some(p => p.taken !== null),
    dark: told.size > 0,
    warm: told.size > 0,
  };

  return (
    <Frame>
      <Bar>
        <Crumbs screen="Sheet" above={[{ to: '/', text: 'All series' }]} here={series.title} />
        <Push />
        <OrderOf>
          Show
          <Picker
            label="Show"
            value={filter}
            options={filters.map(f => ({ value: f, text: filterWords[f] }))}
            onChange={setFilter}
          />
          Order
          <Picker
            label="Order"
            value={order}
            options={orders.filter(o => isKnown[o]).map(o => ({ value: o, text: orderWords[o] }))}
            onChange={setOrder}
          />
        </OrderOf>
        <span style={{ display: 'flex' }}>
          <IconButton
            aria-label={last ? `Undo: ${last.label}` : 'Undo'}
            isDisabled={!last}
            onPress={deeds.undo}
          >
            <Undo2 aria-hidden="true" />
          </IconButton>
          <IconButton
            aria-label={next ? `Redo: ${next.label}` : 'Redo'}
            isDisabled={!next}
            onPress={deeds.redo}
          >
            <Redo2 aria-hidden="true" />
          </IconButton>
        </span>
        <Segments
          label="Size of the thumbnails"
          value={size}
          options={sizes.map(s => ({ value: s, text: s.charAt(0).toUpperCase() + s.slice(1) }))}
          onChange={s => {
            localStorage.setItem(SIZE_KEY, s);
            setSize(s);
          }}
        />
        <KeysHelp />
        <WallTones />
      </Bar>
      <Table>
        <SeriesPaper
          series={series}
          selected={selected}
          deeds={deeds}
          onAdd={() => chooseFiles(add, client)}
        />
        {hung.length === 0 ? (
          <Nothing>
            <LayDown
              onFiles={add}
              says="The first of this series. Drop them anywhere on this sheet, or choose them; they are opened with a double click."
            />
          </Nothing>
        ) : null}
        <Contact
          hung={hung}
          photographs={photographs}
          mayMove={isHung}
          size={size}
          selection={selection}
          onSelect={setSelection}
          onMenu={openMenu}
          onOpen={id => void navigate(`/photographs/${id}`)}
          onOrder={deeds.order}
        />
      </Table>
      {measured && hung.some(isTreated) ? (
        <EvennessStrip data={measured.data} even={measured.even} photographs={hung} deeds={deeds} />
      ) : (
        <span />
      )}
      {batch ? (
        <BatchBar
          batchId={batch}
          photographs={hung}
          onUndo={() => deeds.undoOne(batch)}
          onClose={() => show(null)}
        />
      ) : (
        <span />
      )}
      <SheetActs
        hung={hung}
        photographs={photographs}
        selected={selected}
        isHung={isHung}
        onSelect={chosen => setSelection(new Set(chosen.map(p => p.id)))}
        onHangSo={hangSo}
        onAll={() => {
          setOrder('hung');
          setFilter('all');
        }}
        onMake={otherFiles.make}
        onDo={setDoing}
        onCover={p => deeds.changeSeries({ coverId: p.id }, 'Cover')}
        onPutAside={putAside}
        onSend={out =>
          void navigate(`/series/${series.id}/send-out?takes=${out.map(p => p.currentTakeId).join(',')}`)
        }
      />
      {doing ? (
        <LayOnMany
          doing={doing}
          seriesId={series.id}
          chosen={selected.length ? selected : photographs}
          photographs={hung}
          onBegun={({ id, label }) => {
            deeds.remember(id, label);
            show(id);
          }}
          onClose={() => setDoing(null)}
        />
      ) : null}
      {otherFiles.dialog}
      <FileDrop text={`Lay them down in ${series.title}`} onFiles={laidDown} />
    </Frame>
  );
}
