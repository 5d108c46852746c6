import { type RefObject, useEffect, useState } from 'react';

/** The height of an element, following its changes. */
export function useShownHeight(element: RefObject<HTMLElement | null>): number {
  const [height, setHeight] = useState(400);
  useEffect(() => {
    const el = element.current;
    if (!el) {
      return;
    }
    const observer = new ResizeObserver(() => setHeight(el.clientHeight));
    observer.observe(el);
    return () => observer.disconnect();
  }, [element]);
  return height;
}
