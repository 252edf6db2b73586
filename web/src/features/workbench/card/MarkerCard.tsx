import type { Marker, Plan } from '@warper/core';
import { framesPerSecond, defined } from '@warper/core';
import { Button, Check, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { TextField } from '../../../ui/TextField';
import { LinkGroup } from './LinkGroup';
import { commit } from '../../../store/edits';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch } from '../../../store/store';

/** A marker or a region: its name and its frames. */
export function MarkerCard({ marker, plan }: { marker: Marker; plan: Plan }) {
  const dispatch = useAppDispatch();
  const fps = framesPerSecond(plan.rate);
  const change = (values: Partial<Marker>): void =>
    void dispatch(commit({ type: 'marker', marker: { ...marker, ...values } }));
  const isRegion = marker.end !== null;
  return (
    <>
      <p className="text-soft">{isRegion ? 'Region' : 'Marker'}</p>
      <h2 className="mb-2 text-title font-bold">{marker.name}</h2>
      <Group title="Place">
        <TextField label="Name" value={marker.name} onChange={(name) => change({ name })} />
        <NumberField
          label={isRegion ? 'Start frame' : 'At frame'}
          value={marker.frame}
          least={0}
          framesPerSecond={fps}
          onChange={(frame) => change({ frame })}
        />
        <Check
          label="Region"
          checked={isRegion}
          onChange={(on) => change({ end: on ? marker.frame + Math.round(fps) : null })}
        />
        {marker.end !== null && (
          <NumberField
            label="End frame"
            value={marker.end}
            least={marker.frame + 1}
            framesPerSecond={fps}
            onChange={(end) => change({ end })}
          />
        )}
      </Group>
      <ImpactGroup marker={marker} plan={plan} change={change} />
      <LinkGroup of="marker" id={marker.id} />
      <div className="flex flex-wrap gap-2 border-t pt-3">
        {marker.end !== null && (
          <Button
            onClick={() =>
              dispatch(commit({ type: 'range', range: { from: marker.frame, to: defined(marker.end) } }))
            }
          >
            Play region
          </Button>
        )}
        <Button
          onClick={() => {
            dispatch(commit({ type: 'remove marker', marker: marker.id }));
            dispatch(sessionActions.selected({ kind: 'scene' }));
          }}
        >
          Remove
        </Button>
      </div>
    </>
  );
}

/** Who and what hits each other at the marker: it is drawn on their lanes. */
function ImpactGroup({
  marker,
  plan,
  change,
}: {
  readonly marker: Marker;
  readonly plan: Plan;
  readonly change: (values: Partial<Marker>) => void;
}) {
  const { impact } = marker;
  return (
    <Group title="Impact">
      {plan.characters.map(({ character: { id, name } }) => (
        <Check
          key={id}
          label={name}
          checked={impact.includes(id)}
          onChange={(on) => change({ impact: on ? [...impact, id] : impact.filter((c) => c !== id) })}
        />
      ))}
    </Group>
  );
}
