import type { CanvasProps } from '@react-three/fiber';
import { Canvas, useThree } from '@react-three/fiber';
import { useEffect, useState } from 'react';
import { FineWhenStill } from './FineWhenStill';
import { isSoftwareDrawn } from './softwareDrawn';

/** Milliseconds that the browser gets to bring back what the view draws with, before the view is set up anew. */
const PATIENCE = 1500;

/** How the picture is drawn with a graphics card, and without one. */
const BY_CARD = { dpr: [1, 2] as [number, number], gl: { antialias: true } } satisfies Partial<CanvasProps>;
const BY_PROCESSOR = { dpr: 1, gl: { antialias: false } } satisfies Partial<CanvasProps>;

/**
 * A canvas that survives the loss of its graphics context, as a driver that is reset, or a machine that wakes up, leaves it: it says
 * so, waits for the browser, else sets the view up anew, and draws at once.
 */
export function StageCanvas({ children, ...props }: Omit<CanvasProps, 'dpr' | 'gl'>) {
  const [setUp, setSetUp] = useState(0);
  const [lost, setLost] = useState(false);
  useEffect(() => {
    if (!lost) return;
    const timer = setTimeout(() => {
      setSetUp((n) => n + 1);
      setLost(false);
    }, PATIENCE);
    return () => clearTimeout(timer);
  }, [lost]);
  return (
    <>
      <Canvas key={setUp} {...(isSoftwareDrawn() ? BY_PROCESSOR : BY_CARD)} {...props}>
        <ContextWatch onLost={setLost} />
        {isSoftwareDrawn() && <FineWhenStill />}
        {children}
      </Canvas>
      {lost && (
        <p
          role="status"
          className="absolute inset-x-0 top-1/2 -translate-y-1/2 text-center text-title text-ink"
        >
          The graphics of this computer were interrupted. The view comes back by itself.
        </p>
      )}
    </>
  );
}

/** Tells when the context is lost and when it is back, and has what is there drawn again. */
function ContextWatch({ onLost }: { onLost: (lost: boolean) => void }) {
  const canvas = useThree((s) => s.gl.domElement);
  const invalidate = useThree((s) => s.invalidate);
  useEffect(() => {
    const lose = (event: Event): void => {
      // Without this the browser would not bring it back.
      event.preventDefault();
      onLost(true);
    };
    const restore = (): void => {
      onLost(false);
      invalidate();
    };
    canvas.addEventListener('webglcontextlost', lose);
    canvas.addEventListener('webglcontextrestored', restore);
    return () => {
      canvas.removeEventListener('webglcontextlost', lose);
      canvas.removeEventListener('webglcontextrestored', restore);
    };
  }, [canvas, invalidate, onLost]);
  return null;
}
