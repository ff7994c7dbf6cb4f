import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import styled from 'styled-components';
import { getOutputPart, type SendOutSettings } from '../../contract/send-outs';
import type { TakeSummary } from '../../contract/takes';
import { callForFile, messageOf } from '../app/api';
import { Button } from '../ui/buttons';
import { Dialog, DialogActions, Picker } from '../ui/overlays';
import { Slider } from '../ui/slider';
import { TakePicture } from '../ui/TakePicture';

/** A picture as it will go out, pixel for pixel, without its sharpening and with it. */

/** The side of a part, in pixels of the screen. */
const SIDE = 330;

const Panes = styled.div`
  display: grid;
  grid-template-columns: 200px ${SIDE}px ${SIDE}px;
  gap: 14px;
  margin: 12px 0 4px;
  figure {
    background: var(--wall);
  }
  figure img {
    display: block;
    width: ${SIDE}px;
    height: ${SIDE}px;
    object-fit: none;
    image-rendering: pixelated;
  }
  figcaption {
    background: var(--paper-high);
    padding-top: 6px;
    color: var(--ink-2);
  }
`;

const Whole = styled.div`
  position: relative;
  align-self: start;
  cursor: crosshair;
  touch-action: none;
  outline: none;
  &:focus-visible {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
  img {
    display: block;
    width: 200px;
    pointer-events: none;
  }
  i {
    position: absolute;
    width: 22px;
    height: 22px;
    margin: -11px 0 0 -11px;
    border: 2px solid #fff;
    outline: 1px solid #000;
    pointer-events: none;
  }
`;

interface Shown {
  take: TakeSummary;
  text: string;
}

interface Place {
  x: number;
  y: number;
}

const PURPOSE_WORDS = {
  none: '',
  screen: 'For a screen',
  glossy: 'For glossy paper',
  matte: 'For matte paper',
};
const within = (v: number) => Math.min(1, Math.max(0, v));

/** A part as a picture of its own address; given back when another comes. */
function usePart(take: TakeSummary, settings: SendOutSettings, { x, y }: Place) {
  const size = Math.round(SIDE * window.devicePixelRatio);
  const { data, error, isFetching } = useQuery({
    queryKey: [
      'output-part',
      take.id,
      take.revision,
      settings.size,
      settings.dpi,
      settings.sharpen,
      x,
      y,
      size,
    ],
    queryFn: ({ signal }) =>
      callForFile(
        getOutputPart,
        { params: { id: take.id }, body: { settings, x, y, width: size, height: size } },
        { signal },
      ),
    placeholderData: keepPreviousData,
    gcTime: 0,
  });
  return { part: data ?? null, error, isFetching };
}

/** A picture of bytes. */
function BytesPicture({ of, text }: { of: { bytes: BlobPart; type: string }; text: string }) {
  const image = useRef<HTMLImageElement>(null);
  useEffect(() => {
    const address = URL.createObjectURL(new Blob([of.bytes], { type: of.type }));
    image.current!.src = address;
    return () => URL.revokeObjectURL(address);
  }, [of]);
  return <img ref={image} alt={text} />;
}

function Pane({ of: { part, error, isFetching }, text }: { of: ReturnType<typeof usePart>; text: string }) {
  return (
    <figure aria-busy={isFetching}>
      {error ? <p role="alert">{messageOf(error)}</p> : part ? <BytesPicture of={part} text={text} /> : null}
      <figcaption>
        {text}
        {isFetching ? ' …' : ''}
      </figcaption>
    </figure>
  );
}

export function NaturalDialog({
  shown,
  settings,
  onChange,
  onClose,
}: {
  shown: readonly Shown[];
  settings: SendOutSettings;
  onChange: (settings: SendOutSettings) => void;
  onClose: () => void;
}) {
  const [id, setId] = useState(shown[0].take.id);
  const { take } = shown.find(s => s.take.id === id) ?? shown[0];
  const [place, setPlace] = useState<Place>({ x: 0.5, y: 0.5 });
  const { purpose, amount } = settings.sharpen;
  // While the amount is moved the picture waits for it.
  const [moving, setMoving] = useState<number | null>(null);
  const plain = usePart(take, { ...settings, sharpen: { purpose: 'none', amount: 0 } }, place);
  const sharp = usePart(take, settings, place);
  const pointAt = (event: PointerEvent<HTMLElement>) => {
    const box = event.currentTarget.getBoundingClientRect();
    setPlace({
      x: within((event.clientX - box.left) / box.width),
      y: within((event.clientY - box.top) / box.height),
    });
  };
  const onKey = (event: KeyboardEvent) => {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    if (!by) return;
    event.preventDefault();
    const far = event.shiftKey ? 0.1 : 0.02;
    setPlace(({ x, y }) => ({ x: within(x + by[0] * far), y: within(y + by[1] * far) }));
  };
  return (
    <Dialog title="Sharpening, at 1:1" wide="picture" onClose={onClose}>
      {shown.length > 1 ? (
        <Picker
          label="Photograph"
          value={id}
          options={shown.map(s => ({ value: s.take.id, text: s.text }))}
          onChange={setId}
        />
      ) : null}
      <Panes>
        <Whole
          role="application"
          tabIndex={0}
          aria-label="Where it is looked at: press, or move by the arrow keys"
          onPointerDown={event => {
            event.currentTarget.setPointerCapture(event.pointerId);
            pointAt(event);
          }}
          onPointerMove={event => event.buttons && pointAt(event)}
          onKeyDown={onKey}
        >
          <TakePicture take={take} edge={480} />
          <i style={{ left: `${place.x * 100}%`, top: `${place.y * 100}%` }} />
        </Whole>
        <Pane of={plain} text="As it is at this size" />
        <Pane of={sharp} text={PURPOSE_WORDS[purpose]} />
      </Panes>
      <Slider
        wide
        label="Sharpening"
        value={moving ?? amount}
        min={0}
        max={1}
        step={0.01}
        standard={0.35}
        shownTimes={100}
        onChange={setMoving}
        onChangeEnd={next => {
          setMoving(null);
          onChange({ ...settings, sharpen: { purpose, amount: next } });
        }}
      />
      <DialogActions>
        <Button $ink onPress={onClose}>
          Done
        </Button>
      </DialogActions>
    </Dialog>
  );
}
