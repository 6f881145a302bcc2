import { useRef, useState, type PointerEvent, type RefObject } from 'react';

/** A rectangle in the pixels of what is scrolled. */
export interface Rect {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Pixels that a press may tremble before it draws. */
const TREMBLES = 6;
/** Pixels from an edge at which the sheet goes along with a hand that draws, and by how many at each turn. */
const EDGE = 28;
const ALONG = 14;

/** A rectangle that a mouse draws over what is scrolled: told while it is drawn, and when it is done. */
export function useLasso(
  scroller: RefObject<HTMLElement | null>,
  onDraw: ((rect: Rect, held: { add: boolean }) => void) | undefined,
) {
  const [rect, setRect] = useState<Rect | null>(null);
  const start = useRef<{ x: number; y: number; add: boolean } | null>(null);
  const last = useRef({ clientX: 0, clientY: 0 });
  const along = useRef<ReturnType<typeof setInterval> | undefined>(undefined);
  const drawn = useRef(false);
  const inside = ({ clientX, clientY }: { clientX: number; clientY: number }) => {
    const box = scroller.current!;
    const at = box.getBoundingClientRect();
    return { x: clientX - at.left, y: clientY - at.top + box.scrollTop };
  };
  const draw = () => {
    if (!start.current) return;
    const { x, y } = inside(last.current);
    const { x: from, y: above, add } = start.current;
    if (!drawn.current && Math.hypot(x - from, y - above) < TREMBLES) return;
    drawn.current = true;
    const next = {
      ...{ left: Math.min(from, x), right: Math.max(from, x) },
      ...{ top: Math.min(above, y), bottom: Math.max(above, y) },
    };
    setRect(next);
    onDraw?.(next, { add });
  };
  const end = () => {
    clearInterval(along.current);
    start.current = null;
    setRect(null);
  };
  return {
    rect,
    hands: onDraw && {
      onPointerDown(event: PointerEvent) {
        drawn.current = false;
        const box = scroller.current!;
        // Beside what is scrolled lies its bar; what can be dragged is dragged.
        if (
          event.pointerType !== 'mouse' ||
          (event.target as Element).closest('[draggable=true]') ||
          event.button !== 0 ||
          event.clientX > box.getBoundingClientRect().left + box.clientWidth
        )
          return;
        start.current = { ...inside(event), add: event.ctrlKey || event.metaKey || event.shiftKey };
        last.current = event;
        along.current = setInterval(() => {
          const at = box.getBoundingClientRect();
          const { clientY } = last.current;
          const by = clientY < at.top + EDGE ? -ALONG : clientY > at.bottom - EDGE ? ALONG : 0;
          if (by === 0 || !drawn.current) return;
          box.scrollTop += by;
          draw();
        }, 16);
        window.addEventListener('pointerup', end, { once: true });
      },
      onPointerMove(event: PointerEvent) {
        if (!start.current) return;
        last.current = { clientX: event.clientX, clientY: event.clientY };
        draw();
      },
      // What was drawn is not a click on the cell where it ended.
      onClickCapture(event: { stopPropagation: () => void }) {
        if (drawn.current) event.stopPropagation();
        drawn.current = false;
      },
    },
  };
}
