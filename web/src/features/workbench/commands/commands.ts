import { defined } from '@warper/core';
import { ALTERNATE_COMMANDS } from './alternateCommands';
import { CAMERA_COMMANDS } from './cameraCommands';
import type { Command } from './command';
import { GROUP_COMMANDS } from './groupCommands';
import { LAYER_COMMANDS } from './layerCommands';
import { SCENE_COMMANDS } from './sceneCommands';
import { SEGMENT_COMMANDS } from './segmentCommands';
import { SOUND_COMMANDS } from './soundCommands';
import { STAGING_COMMANDS } from './stagingCommands';
import { TIME_COMMANDS } from './timeCommands';
import { VIEW_COMMANDS } from './viewCommands';

/** Everything that has a key or a place in the palette, in the order in which it is listed. */
export const COMMANDS: readonly Command[] = [
  ...SEGMENT_COMMANDS,
  ...GROUP_COMMANDS,
  ...LAYER_COMMANDS,
  ...STAGING_COMMANDS,
  ...CAMERA_COMMANDS,
  ...SOUND_COMMANDS,
  ...ALTERNATE_COMMANDS,
  ...TIME_COMMANDS,
  ...VIEW_COMMANDS,
  ...SCENE_COMMANDS,
];

/** The groups that commands are listed in. */
export const COMMAND_GROUPS = [...new Set(COMMANDS.map((c) => c.group))];

/** A command by its id. */
export const commandOf = (id: string): Command => defined(COMMANDS.find((c) => c.id === id));
