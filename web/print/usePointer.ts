import {
  useCallback,
  useEffect,
  useLayoutEffect,
  useRef,
  useState,
  type PointerEvent,
  type RefObject,
} from 'react';
import type { Treatment } from '../../core/treatment/schema';
import type { ReadColour } from './Reading';
import type { PictureTool, ToolDrag } from './tool';
import type { Drawing } from './useDrawing';
import type { Hanging } from './useHanging';

/** The browser tells of the pointer's places at once. */
const RAW = 'onpointerrawupdate' in window;

/** A mouse has no pressure; a pen has its own. */
const pressureOf = (event: { pointerType?: string; pressure?: number }) =>
  event.pointerType === 'pen' && event.pressure ? event.pressure : 1;

/** What the pointer does on the picture: works with the tool, moves the picture, reads the colour beneath it. */
export function usePointer(
  wall: RefObject<HTMLDivElement | null>,
  { at, ratio, view, pan }: Hanging,
  { live, endStroke, read }: Drawing,
  tool: PictureTool | null,
  /** The space bar is held: a press moves the picture, whatever the tool. */
  toMoveIt: boolean,
  treatment: Treatment,
  /** Where it is, in device pixels of the wall; null where it is elsewhere. */
  pointer: RefObject<{ x: number; y: number } | null>,
) {
  const [reading, setReading] = useState<ReadColour | null>(null);
  const [panning, setPanning] = useState(false);
  const drag = useRef<{ of: ToolDrag; x: number; y: number } | null>(null);

  const look = useCallback(() => {
    const place = pointer.current;
    const colour = place && read(Math.floor(place.x), Math.floor(place.y));
    setReading(colour ? { colour } : null);
  }, [read, pointer]);
  useEffect(look, [look, treatment]);

  const toPixels = (event: { clientX: number; clientY: number }) => {
    const box = wall.current!.getBoundingClientRect();
    return { x: (event.clientX - box.left) * ratio, y: (event.clientY - box.top) * ratio };
  };
  const onPicture = (event: {
    clientX: number;
    clientY: number;
    pointerType?: string;
    pressure?: number;
  }) => {
    const p = toPixels(event);
    if (!at) return null;
    return { x: (p.x - at.x) / at.width, y: (p.y - at.y) / at.height, pressure: pressureOf(event) };
  };

  const onPointerDown = (event: PointerEvent<HTMLElement>) => {
    const toMove = event.button === 1 || toMoveIt || !tool;
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

  const release = () => {
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
    pointer.current = toPixels(event);
    if (drag.current) {
      if (!RAW || !drag.current.of.live) dragOn(event.nativeEvent);
      return;
    }
    if (panning) pan(event.movementX * ratio, event.movementY * ratio);
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
    pointer.current = null;
    setReading(null);
  };
  return {
    reading,
    panning,
    handlers: {
      onPointerDown,
      onPointerMove,
      onPointerUp: release,
      onPointerCancel: release,
      onPointerLeave,
    },
  };
}
