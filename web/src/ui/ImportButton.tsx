import { Upload } from 'lucide-react';
import { useRef } from 'react';
import { Button } from './controls';

interface Props {
  readonly label: string;
  /** What a screen reader calls the field behind the button. */
  readonly fieldLabel: string;
  readonly onFiles: (files: readonly File[]) => void;
  /** Endings of the files that can be chosen; default any. */
  readonly accept?: string;
  readonly className?: string;
}

/** A button that lets files be chosen; the same file can be chosen again. */
export function ImportButton({ label, fieldLabel, onFiles, accept, className }: Props) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button className={className} onClick={() => input.current?.click()}>
        <Upload size={14} aria-hidden /> {label}
      </Button>
      <input
        ref={input}
        type="file"
        multiple
        hidden
        accept={accept}
        aria-label={fieldLabel}
        onChange={(e) => {
          onFiles([...(e.currentTarget.files ?? [])]);
          e.currentTarget.value = '';
        }}
      />
    </>
  );
}
