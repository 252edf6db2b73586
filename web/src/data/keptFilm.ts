import Joi from 'joi';

const KEY = 'warper-film';

/** Where a film is looked at from. */
export type FilmAngle = 'three-quarter' | 'front' | 'side';

/** What a film is. */
export interface FilmSettings {
  readonly format: 'mp4' | 'webm' | 'gif' | 'png' | 'sheet';
  readonly width: number;
  readonly height: number;
  /** Pictures a second; null for the scene's. */
  readonly rate: number | null;
  /** Where it is looked at from; 'all round' shows eight directions beside each other. */
  readonly angle: FilmAngle | 'all round';
  /** Id of a character with whom the camera goes along; null shows everything. */
  readonly follow: string | null;
  /** What of the scene's cameras is looked through: the shots, or one camera by its id; null for none of them. */
  readonly through: 'shots' | { readonly camera: string } | null;
  /** What is drawn and written into the pictures. */
  readonly timecode: boolean;
  readonly names: boolean;
  readonly footprints: boolean;
  readonly seams: boolean;
  /** What is said, under the picture. */
  readonly lines: boolean;
  /** Whether the film has the sound of the scene; a sequence of pictures has it in a file beside them. */
  readonly sound: boolean;
  /** Of a sheet: frames from one picture to the next. */
  readonly every: number;
}

const USUAL: FilmSettings = {
  format: 'mp4',
  width: 1280,
  height: 720,
  rate: null,
  angle: 'three-quarter',
  follow: null,
  through: null,
  timecode: true,
  names: false,
  footprints: false,
  seams: false,
  lines: true,
  sound: true,
  every: 2,
};

const pixels = Joi.number().integer().min(64).max(3840);
const rule = Joi.object<FilmSettings>({
  format: Joi.valid('mp4', 'webm', 'gif', 'png', 'sheet'),
  width: pixels,
  height: pixels,
  rate: Joi.number().min(1).max(120).allow(null),
  angle: Joi.valid('three-quarter', 'front', 'side', 'all round'),
  follow: Joi.string().allow(null),
  through: Joi.alternatives(Joi.valid('shots', null), Joi.object({ camera: Joi.string().required() })),
  timecode: Joi.boolean(),
  names: Joi.boolean(),
  footprints: Joi.boolean(),
  seams: Joi.boolean(),
  lines: Joi.boolean(),
  sound: Joi.boolean(),
  every: Joi.number().integer().min(1).max(1000),
});

/** How the last film was set; the usual settings where that is damaged, or storage is refused. */
export function keptFilm(): FilmSettings {
  try {
    const { error, value } = rule.validate(JSON.parse(localStorage.getItem(KEY) ?? '{}'), {
      stripUnknown: true,
    });
    return error ? USUAL : { ...USUAL, ...(value as Partial<FilmSettings>) };
  } catch {
    return USUAL;
  }
}

/** Keeps the settings for the next visit, where storage allows it. */
export function keepFilm(settings: FilmSettings): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(settings));
  } catch {
    // A browser that refuses storage begins anew next time.
  }
}
