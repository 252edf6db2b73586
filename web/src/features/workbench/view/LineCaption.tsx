import { captionText, linesAt } from '@warper/core';
import { useRef } from 'react';
import { selectPreviewScene } from '../../../store/selectors';
import { useAppSelector } from '../../../store/store';
import { useShownFrame } from '../useShownFrame';

/** What is said at the playhead, under the view. */
export function LineCaption() {
  const lines = useAppSelector((s) => selectPreviewScene(s).lines);
  const element = useRef<HTMLParagraphElement>(null);
  useShownFrame((frame) => {
    const caption = element.current;
    if (!caption) return;
    const text = linesAt(lines, frame).map(captionText).join('\n');
    caption.textContent = text;
    caption.hidden = text === '';
  });
  return (
    <p
      ref={element}
      data-testid="caption"
      className="pointer-events-none absolute bottom-3 left-1/2 max-w-[80%] -translate-x-1/2 rounded-sm bg-plaster/85 px-2 text-center text-title whitespace-pre-line"
    />
  );
}
