import type { Edit, Link, Meeting, Moment, Scene } from '@warper/core';
import {
  InputError,
  MEETING_DISTANCE,
  PLAIN_MARKER,
  applyEdit,
  compile,
  jointNamed,
  pushEdit,
} from '@warper/core';
import Joi from 'joi';
import type { MotionLibrary } from '../library';
import { characterId, cueId } from './assembleLayers';
import { check, failAt, metres, whole, word } from './checkKeys';
import type { PlacedEdit } from './placedEdit';
import type { CueSheet } from './sheet';
import type { Tethered } from './tetherSheet';

/** Whom the character of a cue meets, by name: `frame` counts from the start of the cue. All but the character may be left out. */
export interface CueMeeting extends Partial<Omit<Meeting, 'character'>> {
  readonly character: string;
}

/** A named frame, or region; those who hit each other there by name. */
export interface CueMarker {
  readonly name: string;
  readonly frame: number;
  readonly end?: number;
  readonly impact?: readonly string[];
}

/** A moment: of a cue of a character, counted from 0; of a tether of the sheet, counted from 0; or of a marker by its name. */
export interface CueMoment {
  readonly character?: string;
  readonly cue?: number;
  readonly tether?: number;
  readonly marker?: string;
  readonly at?: 'start' | 'end' | number;
}

/** What waits for what, and by how many frames it comes later. */
export interface CueLink {
  readonly follower: CueMoment;
  readonly leader: CueMoment;
  readonly offset?: number;
}

/** Somebody who is pushed at a frame, over so many frames, so far. */
export interface CuePush {
  readonly character: string;
  readonly by?: string;
  readonly frame: number;
  readonly frames?: number;
  readonly distance: number;
  readonly heading?: number;
}

const MEETING = {
  character: word.required(),
  frame: whole.min(0).max(1e7),
  distance: Joi.number().min(0).max(MEETING_DISTANCE),
  angle: metres,
  turn: metres,
  joints: Joi.object({ own: word.required(), other: word.required() }).allow(null),
};
const MARKER = {
  name: word.required(),
  frame: whole.min(0).max(1e7).required(),
  end: whole.greater(Joi.ref('frame')),
  impact: Joi.array().items(word).max(1000),
};
const LINK = { follower: Joi.object().required(), leader: Joi.object().required(), offset: whole };
const MOMENT = {
  character: word,
  cue: whole.min(0),
  tether: whole.min(0),
  marker: word,
  at: Joi.alternatives(Joi.valid('start', 'end'), whole.min(0)),
};
const PUSH = {
  character: word.required(),
  by: word,
  frame: whole.min(0).max(1e7).required(),
  frames: whole.min(1).max(1e4),
  distance: Joi.number().greater(0).max(100).required(),
  heading: metres,
};

/** What of a sheet is about several characters at once. */
type Staging = Pick<CueSheet, 'markers' | 'links' | 'pushes'>;

/** Checks whom a cue meets. */
export const checkMeeting = (value: unknown, path: string): void =>
  void (value !== undefined && check(value, MEETING, path));

/** Checks the markers, links and pushes of a sheet. */
export function checkStaging({ markers = [], links = [], pushes = [] }: Staging): void {
  markers.forEach((m, i) => check(m, MARKER, `markers[${i}]`));
  pushes.forEach((p, i) => check(p, PUSH, `pushes[${i}]`));
  links.forEach((value, i) => {
    const path = `links[${i}]`;
    const link = check<CueLink>(value, LINK, path);
    for (const side of ['follower', 'leader'] as const) {
      const moment = check<CueMoment>(link[side], MOMENT, `${path}.${side}`);
      const kinds = [moment.cue, moment.tether, moment.marker].filter((v) => v !== undefined);
      if (kinds.length !== 1)
        failAt(path)(
          'An event is of a cue, a tether or a marker.',
          side,
          'Give one of "cue", "tether", "marker".',
        );
      if (moment.cue !== undefined && moment.character === undefined)
        failAt(path)('The cue of an event needs its character.', `${side}.character`);
    }
  });
}

/** Looks up those of a sheet by name. */
function finder(cast: readonly Tethered[]): (name: string, path: string) => Tethered {
  return (name, path) => {
    const one = cast.find((c) => c.name === name);
    if (one) return one;
    throw new InputError('cues', `The sheet has no character ${name}.`, {
      place: { path },
      hint: `Its characters are ${cast.map((c) => c.name).join(', ')}.`,
    });
  };
}

/** The edits that have characters meet, and put markers and links. */
export function stagingEdits(sheet: CueSheet, cast: readonly Tethered[]): PlacedEdit[] {
  const find = finder(cast);
  const markers = (sheet.markers ?? []).map(({ name, frame, end, impact = [] }, i): PlacedEdit => {
    const path = `markers[${i}]`;
    const hit = impact.map((who, k) => find(who, `${path}.impact[${k}]`).id);
    const marker = { ...PLAIN_MARKER, id: markerId(i), name, frame, end: end ?? null, impact: hit };
    return { path, edit: { type: 'marker', marker } };
  });
  const links = (sheet.links ?? []).map(({ follower, leader, offset }, i): PlacedEdit => {
    const path = `links[${i}]`;
    const link: Link = {
      id: `k${i + 1}`,
      follower: momentOf(follower, sheet, cast, `${path}.follower`),
      leader: momentOf(leader, sheet, cast, `${path}.leader`),
      offset: offset ?? 0,
    };
    return { path, edit: { type: 'link', link } };
  });
  return [...meetingEdits(sheet, cast), ...markers, ...links];
}

const markerId = (index: number): string => `m${index + 1}`;

/** Metres at which those who meet stand to each other unless a sheet says otherwise. */
const APART = 0.8;

function meetingEdits({ characters }: CueSheet, cast: readonly Tethered[]): PlacedEdit[] {
  const find = finder(cast);
  return characters.flatMap(({ cues = [] }, c) =>
    cues.flatMap(({ meet }, i): PlacedEdit[] => {
      if (!meet) return [];
      const path = `characters[${c}].cues[${i}].meet`;
      const other = find(meet.character, `${path}.character`);
      for (const [side, { name, skeleton }] of [
        ['own', cast[c] ?? other],
        ['other', other],
      ] as const) {
        const joint = meet.joints?.[side];
        if (joint !== undefined && jointNamed(skeleton, joint) < 0)
          throw new InputError('cues', `${name} has no joint ${joint}.`, {
            place: { path: `${path}.joints.${side}` },
          });
      }
      const meeting: Meeting = {
        frame: 0,
        distance: APART,
        angle: 0,
        turn: 0,
        joints: null,
        ...meet,
        character: other.id,
      };
      return [{ path, edit: { type: 'meet', segment: cueId(characterId(c), i), meeting } }];
    }),
  );
}

function momentOf(asked: CueMoment, sheet: CueSheet, cast: readonly Tethered[], path: string): Moment {
  const { at = 'start', cue, tether, marker } = asked;
  const missing = (what: string, key: string): never => {
    throw new InputError('cues', `The sheet has no ${what}.`, { place: { path: `${path}.${key}` } });
  };
  if (cue !== undefined) {
    const { id } = finder(cast)(asked.character ?? '', `${path}.character`);
    const index = cast.findIndex((c) => c.id === id);
    if (!sheet.characters[index]?.cues?.[cue]) missing(`cue ${cue} of ${asked.character}`, 'cue');
    return { of: 'segment', id: cueId(id, cue), at };
  }
  if (at !== 'start' && at !== 'end')
    throw new InputError('cues', 'Of a marker or a tether only the start or the end is an event.', {
      place: { path: `${path}.at` },
    });
  if (tether !== undefined) {
    if (!sheet.tethers?.[tether]) missing(`tether ${tether}`, 'tether');
    return { of: 'tether', id: `t${tether + 1}`, at };
  }
  const index = sheet.markers?.findIndex((m) => m.name === marker) ?? -1;
  if (index < 0) missing(`marker ${marker}`, 'marker');
  return { of: 'marker', id: markerId(index), at };
}

/** A scene in which those who are pushed are. */
export function withPushes(
  scene: Scene,
  { pushes = [] }: CueSheet,
  cast: readonly Tethered[],
  library: MotionLibrary,
): Scene {
  return pushes.reduce((current, { character, by, frame, frames, distance, heading }, i) => {
    const path = `pushes[${i}]`;
    const find = finder(cast);
    const edit: Edit = pushEdit(compile(current, library), {
      character: find(character, `${path}.character`).id,
      by: by === undefined ? null : find(by, `${path}.by`).id,
      frame,
      frames: frames ?? 15,
      distance,
      heading: heading ?? null,
      ids: { marker: `push${i + 1}`, layer: `pushed${i + 1}`, door: `swing${i + 1}` },
    });
    return applyEdit(current, edit, library);
  }, scene);
}
