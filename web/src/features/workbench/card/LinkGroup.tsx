import type { Link, Moment, Scene } from '@warper/core';
import { frameOfMoment } from '@warper/core';
import { useMemo } from 'react';
import { library } from '../../../data/pageLibrary';
import { commit } from '../../../store/edits';
import { selectPreviewPlan, selectPreviewScene } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import type { SceneEvent } from './events';
import type { Linked } from './events';
import { eventsOf, laneMates, momentKey, momentWords, nearestLink, startOf } from './events';

interface Props {
  readonly of: Linked;
  readonly id: string;
  /** Of keys the frame at which they stand. */
  readonly at?: number;
}

/** What something waits for, and what waits for it. */
export function LinkGroup({ of, id, at }: Props) {
  const dispatch = useAppDispatch();
  const scene = useAppSelector(selectPreviewScene);
  const { plan } = useAppSelector(selectPreviewPlan);
  const events = useMemo(() => eventsOf(scene, plan), [scene, plan]);
  const links = Object.values(scene.links);
  const is = (m: Moment): boolean => m.of === of && m.id === id && (of !== 'keys' || m.at === at);
  const own = links.filter((l) => is(l.follower));
  const waiting = links.filter((l) => is(l.leader));
  const lane = laneMates(scene, of, id);
  const add = (): void => {
    const link = nearestLink(scene, plan, startOf(of, id, at));
    if (link) dispatch(commit({ type: 'link', link }));
    else dispatch(sessionActions.announced('There is nothing else in the scene to wait for'));
  };
  return (
    <Group title="Waits for">
      {own.map((link) => (
        <LinkFields key={link.id} link={link} scene={scene} events={events} lane={lane} />
      ))}
      {own.length === 0 && (
        <div>
          <Button onClick={add}>Link to an event</Button>
        </div>
      )}
      {waiting.map((link) => (
        <p key={link.id} className="text-soft">
          {momentWords(link.follower, events)} waits for it.
        </p>
      ))}
    </Group>
  );
}

interface LinkProps {
  readonly link: Link;
  readonly scene: Scene;
  readonly events: readonly SceneEvent[];
  readonly lane: ReadonlySet<string>;
}

/** One link: what of the thing in hand comes how long after which event. */
function LinkFields({ link, scene, events, lane }: LinkProps) {
  const dispatch = useAppDispatch();
  const playhead = Math.round(useAppSelector((s) => s.session.frame));
  const { follower, leader, offset } = link;
  const change = (values: Partial<Link>): void =>
    void dispatch(commit({ type: 'link', link: { ...link, ...values } }));
  const frameOf = (moment: Moment): number | null => frameOfMoment(scene, moment, library);
  // Nothing moves where only what is linked changes: the distance becomes the one that there is.
  const relink = (next: { readonly follower?: Moment; readonly leader?: Moment }): void => {
    const [led, lead] = [frameOf(next.follower ?? follower), frameOf(next.leader ?? leader)];
    change({ ...next, offset: led !== null && lead !== null ? led - lead : offset });
  };
  const others = events.filter((e) => !lane.has(`${e.moment.of} ${e.moment.id}`));
  const listed = others.some((e) => momentKey(e.moment) === momentKey(leader));
  const options = [
    ...(listed ? [] : [[momentKey(leader), momentWords(leader, events)] as const]),
    ...others.map((e) => [momentKey(e.moment), `${e.words} (${e.frame})`] as const),
  ];
  const [led, lead] = [frameOf(follower), frameOf(leader)];
  const off = led !== null && lead !== null ? led - lead - offset : 0;
  return (
    <>
      <WhatField
        link={link}
        start={frameOf({ ...follower, at: 'start' } as Moment)}
        playhead={playhead}
        relink={relink}
      />
      <NumberField
        label="Frames after"
        unit="f"
        value={offset}
        onChange={(frames) => change({ offset: Math.round(frames) })}
      />
      <Choice
        label="Event"
        value={momentKey(leader)}
        options={options}
        onChange={(key) => {
          const event = others.find((e) => momentKey(e.moment) === key);
          if (event) relink({ leader: event.moment });
        }}
      />
      {off !== 0 && (
        <p className="text-watch">
          {Math.abs(off)} frames too {off > 0 ? 'late' : 'early'}: there is no room for it.
        </p>
      )}
      <div className="flex flex-wrap gap-1.5 pt-1">
        <Button onClick={() => change({ offset: 0 })} disabled={offset === 0}>
          At the same frame
        </Button>
        <Button onClick={() => dispatch(commit({ type: 'remove link', link: link.id }))}>Remove link</Button>
      </div>
    </>
  );
}

interface WhatProps {
  readonly link: Link;
  readonly start: number | null;
  readonly playhead: number;
  readonly relink: (next: { readonly follower: Moment }) => void;
}

/** What of the thing is moved: its start, its end, or a frame in it. */
function WhatField({ link: { follower }, start, playhead, relink }: WhatProps) {
  const { of, id, at } = follower;
  if (of === 'keys') return null;
  const hit = of === 'segment' && start !== null && playhead > start ? playhead - start : null;
  const within = typeof at === 'number' ? at : hit;
  const options = [
    ['start', 'Start'],
    ['end', of === 'segment' ? 'End (lasts until)' : 'End'],
    ...(within !== null && start !== null ? [['frame', `Frame ${start + within}`] as const] : []),
  ] as const;
  return (
    <Choice
      label="What"
      value={typeof at === 'number' ? 'frame' : at}
      options={options}
      onChange={(what) => {
        if (what === 'frame') {
          if (of === 'segment' && within !== null) relink({ follower: { of, id, at: within } });
        } else relink({ follower: { of, id, at: what } });
      }}
    />
  );
}
