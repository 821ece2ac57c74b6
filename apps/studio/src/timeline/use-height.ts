import { useEffect, useState, type RefObject } from 'react';

/** The height that something has been given, pixels. @param least it is taken to have */
export function useHeight(ref: RefObject<HTMLElement | null>, least: number): number {
  const [height, setHeight] = useState(Math.max(least, 300));
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => setHeight(Math.max(least, entry.contentRect.height)));
    observer.observe(element);
    return () => observer.disconnect();
  }, [ref, least]);
  return height;
}
