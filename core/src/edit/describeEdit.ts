import type { LaneState, Scene } from '../scene/scene';
import type { Edit } from './edits';

/** What an edit is called in "Undo ...". */
export function describeEdit(edit: Edit, scene: Scene): string {
  const name =
    'segment' in edit && typeof edit.segment === 'string' ? scene.segments[edit.segment]?.name : '';
  switch (edit.type) {
    case 'rename scene':
      return 'renaming the scene';
    case 'add character':
      return `adding ${edit.character.name}`;
    case 'remove character':
      return `removing ${scene.characters[edit.character]?.name ?? 'a character'}`;
    case 'start character':
      return `placing ${scene.characters[edit.character]?.name ?? 'a character'}`;
    case 'foot-lock':
      return `${edit.on ? 'holding' : 'freeing'} the feet of ${scene.characters[edit.character]?.name ?? 'a character'}`;
    case 'add layer':
      return `adding the layer ${edit.layer.name}`;
    case 'change layer':
    case 'remove layer':
    case 'raise layer': {
      const lane = scene.lanes[edit.layer];
      const verb = { 'change layer': 'changing', 'remove layer': 'removing', 'raise layer': 'moving' }[
        edit.type
      ];
      return `${verb} the layer ${lane?.kind === 'layer' ? lane.name : ''}`.trim();
    }
    case 'key':
      return edit.key.rotation ? `keying ${edit.joint}` : `removing a key of ${edit.joint}`;
    case 'steps':
      return `the steps of ${edit.joint}`;
    case 'place':
      return `adding ${edit.segment.name}`;
    case 'move':
      return `moving ${name}`;
    case 'trim':
      return `trimming ${name}`;
    case 'change':
      return `changing ${name}`;
    case 'seam':
      return `the seam before ${name}`;
    case 'overlap':
      return `the overlap before ${name}`;
    case 'match':
      return `matching frames before ${name}`;
    case 'remove':
      return `removing ${name}`;
    case 'duplicate':
      return `duplicating ${name}`;
    case 'cut':
      return `cutting ${name}`;
    case 'freeze':
      return `freezing ${name}`;
    case 'slip':
      return `slipping ${name}`;
    case 'stretch':
      return `stretching ${name}`;
    case 'repeat':
      return `repeating ${name}`;
    case 'replace':
      return `replacing ${name}`;
    case 'shift seam':
      return `moving the seam before ${name}`;
    case 'widen seam':
      return `the length of the seam before ${name}`;
    case 'swap':
      return `swapping ${name} with the next`;
    case 'reorder':
      return `moving ${name} in the cue sheet`;
    case 'switch':
      return `switching ${name} ${edit.off ? 'off' : 'on'}`;
    case 'move several':
      return `moving ${edit.segments.length === 1 ? (scene.segments[edit.segments[0]!]?.name ?? 'a segment') : `${edit.segments.length} segments`}`;
    case 'paste':
      return `pasting ${edit.segments.length === 1 ? edit.segments[0]!.name : `${edit.segments.length} segments`}`;
    case 'group':
      return `grouping ${edit.name}`;
    case 'ungroup':
      return `ungrouping ${scene.groups[edit.group]?.name ?? ''}`.trim();
    case 'change group':
      return `changing the group ${scene.groups[edit.group]?.name ?? ''}`.trim();
    case 'change lane':
      return describeLane(edit.values);
    case 'change character':
      return `changing ${scene.characters[edit.character]?.name ?? 'a character'}`;
    case 'order character':
      return `moving the lanes of ${scene.characters[edit.character]?.name ?? 'a character'}`;
    case 'lead-in':
      return `the lead-in of ${scene.characters[edit.character]?.name ?? 'a character'}`;
    case 'marker':
      return `the marker ${edit.marker.name}`;
    case 'remove marker':
      return `removing the marker ${scene.markers.find((m) => m.id === edit.marker)?.name ?? ''}`.trim();
    case 'range':
      return 'the play range';
    case 'rate':
      return `setting the rate to ${edit.rate}`;
    case 'several':
      return edit.label;
  }
}

function describeLane(values: Partial<LaneState>): string {
  const words = { muted: 'muting', solo: 'solo of', locked: 'locking', hidden: 'hiding' } as const;
  const undone = {
    muted: 'unmuting',
    solo: 'ending solo of',
    locked: 'unlocking',
    hidden: 'showing',
  } as const;
  const [key, value] = Object.entries(values)[0] as [keyof LaneState, boolean];
  return `${(value ? words : undone)[key]} a lane`;
}
