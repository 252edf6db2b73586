import { useEffect, useState } from 'react';

/** Pixels of an element, followed as it changes. */
export function useFieldSize(): [
  (element: HTMLElement | null) => void,
  { readonly width: number; readonly height: number },
] {
  const [element, setElement] = useState<HTMLElement | null>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useEffect(() => {
    if (!element) return;
    const look = (): void => {
      const { clientWidth: width, clientHeight: height } = element;
      if (width > 0 && height > 0) setSize({ width, height });
    };
    const observer = new ResizeObserver(look);
    observer.observe(element);
    look();
    return () => observer.disconnect();
  }, [element]);
  return [setElement, size];
}
