import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type PointerEvent,
  type RefObject,
} from 'react';
import type { Treatment } from '../../core/treatment/treatment';
import type { Placement } from '../engine/view';
import type { OtherReader } from './OtherSide';
import type { ReadColour } from './Reading';
import type { PictureTool, ToolDrag } from './tool';
import type { Drawn } from './useDrawing';
import type { PointerPlace } from './pointer-place';
import { paneAt, type Hanging } from './useHanging';

/** The browser tells of the pointer's places at once. */
const RAW = 'onpointerrawupdate' in window;

/** A mouse has no pressure; a pen has its own. */
const pressureOf = (event: { pointerType?: string; pressure?: number }) =>
  event.pointerType === 'pen' && event.pressure ? event.pressure : 1;

/** Another picture beside the one that is worked on. */
export interface Neighbour {
  /** Which pane the picture that is worked on hangs on. */
  own: 0 | 1;
  /** Whether the other is what is seen at a point of the wall, in device pixels. */
  isAt: (x: number, y: number) => boolean;
  /** Where it lies on its pane. */
  at: Placement;
  reader: RefObject<OtherReader | null>;
}

/** A place of one picture where another lies: on the same place of it. */
const across = (x: number, y: number, from: Placement, to: Placement) => ({
  x: Math.floor(to.x + ((x + 0.5 - from.x) / from.width) * to.width),
  y: Math.floor(to.y + ((y + 0.5 - from.y) / from.height) * to.height),
});

/** What the pointer does on the picture: works with the tool, moves the picture, reads the colour beneath it. */
export function usePointer(
  wall: RefObject<HTMLDivElement | null>,
  { at, ratio, view, pan, zoomBy, panes }: Hanging,
  { live, endStroke, read, rested }: Drawn,
  tool: PictureTool | null,
  /** The space bar is held: a press moves the picture, whatever the tool. */
  toMoveIt: boolean,
  treatment: Treatment,
  /** Where it is. */
  pointer: PointerPlace,
  neighbour: Neighbour | null,
) {
  const [reading, setReading] = useState<ReadColour | null>(null);
  const [panning, setPanning] = useState(false);
  /** It is on the other picture. */
  const [isBeside, setBeside] = useState(false);
  const drag = useRef<{ of: ToolDrag; x: number; y: number } | null>(null);
  /** Fingers that lie on the picture, where each was last. */
  const fingers = useRef(new Map<number, { x: number; y: number }>());

  const look = useCallback(() => {
    const place = pointer.now();
    if (!place || !at) return setReading(null);
    const [x, y] = [Math.floor(place.x), Math.floor(place.y)];
    if (!neighbour) {
      const colour = read(x, y);
      return setReading(colour ? { colour, was: null } : null);
    }
    const isOn = place.pane !== neighbour.own;
    const here = isOn ? across(x, y, neighbour.at, at) : { x, y };
    const there = isOn ? { x, y } : across(x, y, at, neighbour.at);
    const colour = read(here.x, here.y);
    const was = neighbour.reader.current?.read(there.x, there.y) ?? null;
    setReading(colour ? { colour, was } : null);
  }, [read, pointer, neighbour, at]);
  // What is read is of the picture as it is: when another one has come to rest, it is read anew.
  useEffect(() => {
    const frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }, [look, treatment, rested]);

  const onWall = (event: { clientX: number; clientY: number }) => {
    const box = wall.current!.getBoundingClientRect();
    return { x: (event.clientX - box.left) * ratio, y: (event.clientY - box.top) * ratio };
  };
  /** On the pane that it is over. */
  const toPixels = (event: { clientX: number; clientY: number }) => {
    const { x, y } = onWall(event);
    const pane = paneAt(panes, x, y);
    return { x: x - panes[pane].x, y: y - panes[pane].y, pane };
  };
  const onPicture = (event: {
    clientX: number;
    clientY: number;
    pointerType?: string;
    pressure?: number;
  }) => {
    const p = onWall(event);
    if (!at) return null;
    const pane = panes[neighbour?.own ?? 0];
    return {
      x: (p.x - pane.x - at.x) / at.width,
      y: (p.y - pane.y - at.y) / at.height,
      pressure: pressureOf(event),
    };
  };

  /** Two fingers move the picture and make it larger; what one of them had begun is given up. */
  const pinch = (event: PointerEvent): boolean => {
    const before = [...fingers.current.values()];
    if (event.pointerType !== 'touch' || !fingers.current.has(event.pointerId)) return false;
    fingers.current.set(event.pointerId, toPixels(event));
    if (before.length !== 2) return false;
    const after = [...fingers.current.values()];
    const apart = ([a, b]: { x: number; y: number }[]) => Math.max(1, Math.hypot(a.x - b.x, a.y - b.y));
    const middle = ([a, b]: { x: number; y: number }[]) => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
    const [from, to] = [middle(before), middle(after)];
    zoomBy(apart(after) / apart(before), to);
    pan(to.x - from.x, to.y - from.y);
    return true;
  };

  const onPointerDown = (event: PointerEvent<HTMLElement>) => {
    if (event.pointerType === 'touch') {
      fingers.current.set(event.pointerId, toPixels(event));
      if (fingers.current.size === 2) {
        drag.current?.of.cancel?.();
        drag.current = null;
        setPanning(false);
        endStroke();
        event.currentTarget.setPointerCapture(event.pointerId);
      }
      if (fingers.current.size > 1) return;
    }
    const { x, y } = onWall(event);
    const toMove = event.button === 1 || toMoveIt || !tool || neighbour?.isAt(x, y);
    if (event.button > 1) return;
    const place = onPicture(event);
    const inside = place && place.x >= 0 && place.y >= 0 && place.x < 1 && place.y < 1;
    if (!toMove && place && (inside || tool.anywhere)) {
      const begun = tool.press(place, { alt: event.altKey, shift: event.shiftKey }, live);
      if (!begun) return;
      drag.current = { of: begun, x: event.clientX, y: event.clientY };
    } else if (toMove && view.mode === 'free') setPanning(true);
    else return;
    event.currentTarget.setPointerCapture(event.pointerId);
  };

  const release = (event: PointerEvent) => {
    fingers.current.delete(event.pointerId);
    setPanning(false);
    drag.current?.of.end?.();
    drag.current = null;
    endStroke();
  };

  /** Leads the drag on that is under way. */
  const dragOn = (event: globalThis.PointerEvent) => {
    const { of, x, y } = drag.current!;
    // All places since the last event, where the browser has gathered several.
    const gathered = event.getCoalescedEvents?.() ?? [];
    for (const each of gathered.length > 1 ? gathered : [event]) {
      of.move?.(onPicture(each)!, each.clientX - x, each.clientY - y);
    }
  };

  const onPointerMove = (event: PointerEvent) => {
    if (pinch(event)) return;
    pointer.put(toPixels(event));
    const { x, y } = onWall(event);
    setBeside(neighbour?.isAt(x, y) ?? false);
    if (drag.current) {
      if (!RAW || !drag.current.of.live) dragOn(event.nativeEvent);
      return;
    }
    if (panning) pan(event.movementX * ratio, event.movementY * ratio);
    else if (tool?.hover) {
      const place = onPicture(event);
      const inside = place && place.x >= 0 && place.y >= 0 && place.x < 1 && place.y < 1;
      tool.hover(inside && !neighbour?.isAt(x, y) ? place : null);
    }
    look();
  };

  // Places as they come, where the browser gives them, not once a frame.
  const raw = useRef(dragOn);
  useLayoutEffect(() => {
    raw.current = dragOn;
  });
  useEffect(() => {
    if (!RAW) return;
    const element = wall.current!;
    const moved = (event: Event) => {
      if (drag.current?.of.live) raw.current(event as globalThis.PointerEvent);
    };
    element.addEventListener('pointerrawupdate', moved);
    return () => element.removeEventListener('pointerrawupdate', moved);
  }, [wall]);

  const onPointerLeave = () => {
    pointer.put(null);
    setReading(null);
    tool?.hover?.(null);
  };
  return {
    reading,
    panning,
    isBeside: isBeside && neighbour !== null,
    handlers: {
      onPointerDown,
      onPointerMove,
      onPointerUp: release,
      onPointerCancel: release,
      onPointerLeave,
    },
  };
}
