import { fileName } from '@warper/formats';
import { toast } from 'sonner';
import { describeError } from '../../data/importFiles';
import { Button } from '../../ui/controls';
import { download } from '../../ui/download';
import { exportScene } from '../../data/scenes';
import { useAppSelector } from '../../store/store';

/** What stands above the workbench while something is wrong with keeping the scene. */
export function Notices({ onTake }: { onTake: () => void }) {
  const { trouble, elsewhere, document } = useAppSelector((s) => s.scene);
  const save = (): void => {
    if (!document) return;
    exportScene(document).then(
      (bytes) => download(bytes, `${fileName(document.name)}.warper`, 'application/zip'),
      (error) => toast.error(describeError(error).message, { description: describeError(error).hint }),
    );
  };
  return (
    <>
      {elsewhere && (
        <div role="status" className="flex items-center gap-3 border-b bg-raised px-4 py-1.5">
          <p className="flex-1">
            <b>Open in another tab.</b> This tab follows what is done there.
          </p>
          <Button onClick={onTake}>Edit here instead</Button>
        </div>
      )}
      {trouble && (
        <div role="alert" className="flex items-center gap-3 border-b bg-raised px-4 py-1.5">
          <p className="flex-1 text-bad">
            <b>The last edit is not kept.</b> {trouble}
          </p>
          <Button onClick={save}>Save as file</Button>
        </div>
      )}
    </>
  );
}
