import type { LineCrossing, Plan, Scene, Shot } from '@warper/core';
import { makeCameraPose, cameraAt, framesPerSecond } from '@warper/core';
import { Download } from 'lucide-react';
import { commit } from '../../../store/edits';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button } from '../../../ui/controls';
import { download } from '../../../ui/download';
import { OrderButtons } from '../../../ui/OrderButtons';
import { NumberField } from '../../../ui/NumberField';
import { Select } from '../../../ui/Select';
import { TextField } from '../../../ui/TextField';
import { BelowSwitch } from '../BelowSwitch';
import { commandOf } from '../commands/commands';
import { crossingWords } from '../timeline/ShotLane';
import { shotTable } from './shotTable';
import { useLineCrossings } from './useLineCrossings';

const COLUMNS = ['', 'Shot', 'Camera', 'Lens', 'Start', 'Length', 'Join', 'Comment', 'Remark', ''] as const;

/** The shots of the scene as a table; everything in it is edited in place. */
export function ShotList() {
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const crossings = useLineCrossings();
  const { shots } = plan.filming;
  return (
    <section aria-label="Shot list" className="flex h-full min-h-0 flex-col border-t">
      <div className="relative min-h-0 flex-1 overflow-auto px-4">
        {shots.length === 0 ? (
          <p className="py-3 text-soft">
            No shots yet. A camera added from the view (Shift+C) is seen all through the scene; T begins
            another shot at the playhead.
          </p>
        ) : (
          <table className="w-full text-left">
            <caption className="sr-only">The shots in their order</caption>
            <thead className="sticky top-0 bg-paper text-small text-soft">
              <tr>
                {COLUMNS.map((name, i) => (
                  <th key={i} scope="col" className="py-1 pr-3 font-normal">
                    {name}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {shots.map((shot, i) => (
                <ShotRow
                  key={shot.id}
                  shot={shot}
                  index={i}
                  of={shots.length}
                  scene={scene}
                  crossing={crossings.find((c) => c.shot === shot.id)}
                />
              ))}
            </tbody>
          </table>
        )}
      </div>
      <div className="flex h-[25px] shrink-0 items-center justify-between border-t">
        <BelowSwitch />
        <ListButtons scene={scene} plan={plan} />
      </div>
    </section>
  );
}

function ListButtons({ scene, plan }: { readonly scene: Scene; readonly plan: Plan }) {
  const dispatch = useAppDispatch();
  const { shots } = plan.filming;
  return (
    <span className="flex gap-2 px-4 text-small">
      <Button look="quiet" className="py-0!" onClick={() => dispatch(commandOf('shot').run)}>
        Shot from the playhead
      </Button>
      {shots.length > 0 && (
        <Button
          look="quiet"
          className="py-0!"
          onClick={() =>
            download(
              new Blob([shotTable(scene, plan)], { type: 'text/csv' }),
              `${scene.name} shots.csv`,
              'text/csv',
            )
          }
        >
          <Download size={13} aria-hidden /> Save as CSV
        </Button>
      )}
    </span>
  );
}

interface RowProps {
  readonly shot: Shot;
  readonly index: number;
  readonly of: number;
  readonly scene: Scene;
  readonly crossing: LineCrossing | undefined;
}

function ShotRow({ shot, index, of, scene, crossing }: RowProps) {
  const dispatch = useAppDispatch();
  const { plan } = useAppSelector(selectPreviewPlan);
  const selected = useAppSelector(
    ({ session: { selection } }) => selection.kind === 'shot' && selection.id === shot.id,
  );
  const change = (values: Partial<Omit<Shot, 'id'>>): void =>
    void dispatch(commit({ type: 'change shot', shot: shot.id, values }));
  const order = (to: number): void => void dispatch(commit({ type: 'order shot', shot: shot.id, to }));
  const camera = scene.cameras[shot.camera];
  const lens = camera ? cameraAt(plan, camera, shot.start, makeCameraPose()).lens : 0;
  return (
    <tr
      className={`border-t align-baseline ${selected ? 'bg-raised' : ''}`}
      onFocus={() => dispatch(sessionActions.selected({ kind: 'shot', id: shot.id }))}
    >
      <td className="pr-3 whitespace-nowrap">
        <Button
          look="bare"
          className="min-w-6 text-left font-semibold"
          aria-label={`${index + 1}: go to ${shot.name}`}
          onClick={() => dispatch(sessionActions.went(shot.start))}
        >
          {index + 1}
        </Button>
        <OrderButtons name={shot.name} {...{ index, of }} words={['earlier', 'later']} onOrder={order} />
      </td>
      <td className="pr-3">
        <TextField label="Name" bare value={shot.name} onChange={(name) => change({ name })} />
      </td>
      <td className="pr-3">
        <Select
          label={`Camera of ${shot.name}`}
          value={shot.camera}
          options={plan.filming.cameras.map((c) => [c.id, c.name] as const)}
          onChange={(id) => change({ camera: id })}
        />
      </td>
      <td className="pr-3 whitespace-nowrap">{Number(lens.toFixed(1))} mm</td>
      <TimeCells shot={shot} perSecond={framesPerSecond(plan.rate)} change={change} />
      <td className="pr-3">
        <TextField label="Comment" bare value={shot.comment} onChange={(comment) => change({ comment })} />
      </td>
      <td className="pr-3 text-watch">{crossing && `▲ ${crossingWords(crossing, scene)}`}</td>
      <td>
        <Button
          look="soft"
          aria-label={`Remove ${shot.name}`}
          onClick={() => dispatch(commit({ type: 'remove shot', shot: shot.id }))}
        >
          ×
        </Button>
      </td>
    </tr>
  );
}

interface CellsProps {
  readonly shot: Shot;
  readonly perSecond: number;
  readonly change: (values: Partial<Omit<Shot, 'id'>>) => void;
}

function TimeCells({ shot, perSecond, change }: CellsProps) {
  return (
    <>
      <td className="pr-3">
        <NumberField
          label="Start"
          bare
          value={shot.start}
          framesPerSecond={perSecond}
          onChange={(start) => change({ start })}
        />
      </td>
      <td className="pr-3">
        <NumberField
          label="Length"
          bare
          unit="f"
          least={1}
          value={shot.end - shot.start}
          framesPerSecond={perSecond}
          onChange={(length) => change({ end: shot.start + length })}
        />
      </td>
      <td className="pr-3">
        <NumberField
          label="Blend"
          bare
          unit={shot.blend === 0 ? 'cut' : 'f blend'}
          least={0}
          most={shot.end - shot.start}
          value={shot.blend}
          framesPerSecond={perSecond}
          onChange={(blend) => change({ blend })}
        />
      </td>
    </>
  );
}
