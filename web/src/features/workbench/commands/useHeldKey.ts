import { useEffect, useLayoutEffect, useRef } from 'react';

/** Whether a key is meant for a field that has the focus. */
const isTyping = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || target.matches('input, textarea, select'));

/** Does something while a key is held down, anywhere but in a field; what loses the key, or the window, ends it. */
export function useHeldKey(key: string, begin: () => void, end: () => void): void {
  const latest = useRef({ begin, end });
  useLayoutEffect(() => {
    latest.current = { begin, end };
  });
  useEffect(() => {
    let isHeld = false;
    const press = (e: KeyboardEvent): void => {
      if (e.key.toLowerCase() !== key || e.repeat || e.ctrlKey || e.metaKey || e.altKey || isTyping(e.target))
        return;
      isHeld = true;
      latest.current.begin();
    };
    const release = (e?: KeyboardEvent): void => {
      if (!isHeld || (e && e.key.toLowerCase() !== key)) return;
      isHeld = false;
      latest.current.end();
    };
    const leave = (): void => release();
    window.addEventListener('keydown', press);
    window.addEventListener('keyup', release);
    window.addEventListener('blur', leave);
    return () => {
      window.removeEventListener('keydown', press);
      window.removeEventListener('keyup', release);
      window.removeEventListener('blur', leave);
      leave();
    };
  }, [key]);
}
