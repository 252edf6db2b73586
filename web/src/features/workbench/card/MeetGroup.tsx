import type { CharacterPlan, Meeting, Reach, Segment } from '@warper/core';
import { MEETING_DISTANCE, PLAIN_REACH, meetingNow } from '@warper/core';
import { useMemo, useState } from 'react';
import { freshId } from '../../../data/freshId';
import { commit } from '../../../store/edits';
import { selectPreviewPlan } from '../../../store/selectors';
import { sessionActions } from '../../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../../store/store';
import { Button, Choice, Group } from '../../../ui/controls';
import { NumberField } from '../../../ui/NumberField';
import { jointChoices, jointName } from './jointChoices';
import { reachingLimbs } from './newTether';
import { usualName } from './tetherWords';

interface Props {
  readonly segment: Segment;
  readonly character: CharacterPlan;
}

/** Metres at which two who hand something over stand to each other (common practice). */
const APART = 0.8;

/** Whom the character of a segment meets: it is moved on the floor for that, with what follows, whatever changes before it. */
export function MeetGroup({ segment, character }: Props) {
  const { plan } = useAppSelector(selectPreviewPlan);
  const others = plan.characters.filter((c) => c !== character);
  if (others.length === 0) return null;
  return (
    <Group title="Meet">
      {segment.meet ? (
        <MeetingFields segment={segment} meeting={segment.meet} character={character} others={others} />
      ) : (
        <NewMeeting segment={segment} others={others} />
      )}
    </Group>
  );
}

interface OthersProps {
  readonly segment: Segment;
  readonly others: readonly CharacterPlan[];
}

function NewMeeting({ segment, others }: OthersProps) {
  const dispatch = useAppDispatch();
  const frame = useAppSelector((s) => s.session.frame);
  const [chosen, setChosen] = useState('');
  const other = others.find((c) => c.character.id === chosen) ?? others[0];
  const after = Math.round(frame) - segment.start;
  if (!other) return null;
  const meet = (): void => {
    const meeting: Meeting = {
      character: other.character.id,
      frame: after,
      distance: APART,
      angle: 0,
      turn: 0,
      joints: null,
    };
    if (dispatch(commit({ type: 'meet', segment: segment.id, meeting })))
      dispatch(sessionActions.announced(`They stand ${APART} metres apart at frame ${Math.round(frame)}`));
  };
  return (
    <>
      <Choice
        label="Whom"
        value={other.character.id}
        options={others.map((c) => [c.character.id, c.character.name] as const)}
        onChange={setChosen}
      />
      <div>
        <Button disabled={after < 0} onClick={meet}>
          Meet at frame {Math.round(frame)}
        </Button>
      </div>
      {after < 0 && <p className="text-soft">Put the playhead behind the start of the segment.</p>}
    </>
  );
}

function MeetingFields({
  segment,
  meeting,
  character,
  others,
}: OthersProps & { readonly meeting: Meeting; readonly character: CharacterPlan }) {
  const dispatch = useAppDispatch();
  const playhead = useAppSelector((s) => s.session.frame);
  const change = (values: Partial<Meeting> | null): void =>
    void dispatch(
      commit({ type: 'meet', segment: segment.id, meeting: values && { ...meeting, ...values } }),
    );
  const other = others.find((c) => c.character.id === meeting.character);
  const after = Math.round(playhead) - segment.start;
  return (
    <>
      <Choice
        label="Whom"
        value={meeting.character}
        options={others.map((c) => [c.character.id, c.character.name] as const)}
        onChange={(id) => change({ character: id, joints: null })}
      />
      <MeetingNumbers segment={segment} meeting={meeting} change={change} />
      {other && <JointFields meeting={meeting} own={character} other={other} change={change} />}
      {other && <ReachThere segment={segment} meeting={meeting} own={character} other={other} />}
      {other && <MetNow segment={segment} meeting={meeting} character={character} other={other} />}
      <div className="flex flex-wrap gap-1.5 pt-1">
        <Button disabled={after < 0} onClick={() => change({ frame: after })}>
          At the playhead
        </Button>
        <Button onClick={() => change(null)}>Remove</Button>
      </div>
    </>
  );
}

/** When they meet, and how they stand then. */
function MeetingNumbers({
  segment,
  meeting,
  change,
}: {
  readonly segment: Segment;
  readonly meeting: Meeting;
  readonly change: (values: Partial<Meeting>) => void;
}) {
  return (
    <>
      <NumberField
        label="At frame"
        unit="f"
        least={segment.start}
        value={segment.start + meeting.frame}
        onChange={(frame) => change({ frame: Math.round(frame) - segment.start })}
      />
      <NumberField
        label="Distance"
        unit="m"
        digits={2}
        step={0.05}
        least={0}
        most={MEETING_DISTANCE}
        value={meeting.distance}
        onChange={(distance) => change({ distance })}
      />
      <NumberField
        label="From their front"
        unit="°"
        digits={1}
        step={5}
        value={meeting.angle}
        onChange={(angle) => change({ angle })}
      />
      <NumberField
        label="Turned away"
        unit="°"
        digits={1}
        step={5}
        value={meeting.turn}
        onChange={(turn) => change({ turn })}
      />
    </>
  );
}

/** Between which joints the distance is. */
function JointFields({
  meeting,
  own,
  other,
  change,
}: {
  readonly meeting: Meeting;
  readonly own: CharacterPlan;
  readonly other: CharacterPlan;
  readonly change: (values: Partial<Meeting>) => void;
}) {
  const set = (side: 'own' | 'other', name: string): void => {
    if (!name) return change({ joints: null });
    const joints = meeting.joints ?? { own: 'rightHand', other: 'rightHand' };
    change({ joints: { ...joints, [side]: name } });
  };
  return (
    <>
      <Choice
        label="Own joint"
        value={meeting.joints?.own ?? ''}
        options={jointChoices(own.skeleton, 'where they stand')}
        onChange={(name) => set('own', name)}
      />
      {meeting.joints && (
        <Choice
          label="Their joint"
          value={meeting.joints.other}
          options={jointChoices(other.skeleton, 'where they stand')}
          onChange={(name) => set('other', name)}
        />
      )}
    </>
  );
}

/** Frames in which a hand comes to what it is to touch, and goes away from it. */
const REACH_FADE = 8;

/** For the last centimetres: has the hand or foot that is brought over the other's joint reach for it around the frame. */
function ReachThere({
  segment,
  meeting,
  own,
  other,
}: {
  readonly segment: Segment;
  readonly meeting: Meeting;
  readonly own: CharacterPlan;
  readonly other: CharacterPlan;
}) {
  const dispatch = useAppDispatch();
  const limb = reachingLimbs(own.skeleton).find(
    (l) => jointName(own.skeleton, l.end) === meeting.joints?.own,
  );
  if (!meeting.joints || !limb) return null;
  const frame = segment.start + meeting.frame;
  const joint = meeting.joints.other;
  const reach = (): void => {
    const tether: Reach = {
      ...PLAIN_REACH,
      id: freshId('t'),
      name: usualName({ kind: 'reach', limb: limb.role, joint }, own, other),
      child: own.character.id,
      parent: other.character.id,
      limb: limb.role,
      joint,
      start: Math.max(0, frame - REACH_FADE),
      end: frame + REACH_FADE + 1,
      fadeIn: REACH_FADE,
      fadeOut: REACH_FADE,
    };
    if (dispatch(commit({ type: 'tether', tether })))
      dispatch(sessionActions.selected({ kind: 'tether', id: tether.id }));
  };
  return (
    <div>
      <Button onClick={reach} title={`The hand comes to it in ${REACH_FADE} frames, and goes in as many`}>
        Reach for it around frame {frame}
      </Button>
    </div>
  );
}

/** What the two are to each other as the performance has it; said where it is not what is asked for. */
function MetNow({
  segment,
  meeting,
  character,
  other,
}: {
  readonly segment: Segment;
  readonly meeting: Meeting;
  readonly character: CharacterPlan;
  readonly other: CharacterPlan;
}) {
  const { frame, distance, joints } = meeting;
  const met = useMemo(
    () => meetingNow(character, other, segment.start + frame, joints),
    [character, other, segment.start, frame, joints],
  );
  if (Math.abs(met.distance - distance) < 0.001) return null;
  return (
    <p className="text-watch">
      They stand {met.distance.toFixed(2)} m apart then: something behind the start of this segment keeps its
      own place on the floor.
    </p>
  );
}
