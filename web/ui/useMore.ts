import { useEffect, useState, type RefObject } from 'react';

/** Whether a line that scrolls sideways has more than is seen, on either side. */
export function useMore(scrolled: RefObject<HTMLElement | null>): { left: boolean; right: boolean } {
  const [more, setMore] = useState({ left: false, right: false });
  useEffect(() => {
    const element = scrolled.current!;
    const measure = () => {
      const { scrollLeft, scrollWidth, clientWidth } = element;
      const left = scrollLeft > 2;
      const right = scrollLeft + clientWidth < scrollWidth - 2;
      setMore(was => (was.left === left && was.right === right ? was : { left, right }));
    };
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    for (const child of element.children) observer.observe(child);
    element.addEventListener('scroll', measure, { passive: true });
    return () => {
      observer.disconnect();
      element.removeEventListener('scroll', measure);
    };
  }, [scrolled]);
  return more;
}
