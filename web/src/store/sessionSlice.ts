import type { PayloadAction } from '@reduxjs/toolkit';
import { createSlice } from '@reduxjs/toolkit';
import type { DelayedLinks, Edit, KeptLimbs } from '@warper/core';
import type { Preferences } from '../data/preferences';
import type {
  TimeUnit,
  Selection,
  EdgeUse,
  ViewAngle,
  SessionState,
  KeysInHand,
  ComparedMoments,
  SeamLoop,
  Refusal,
  HandMarks,
  Measured,
} from './sessionState';
import { MOST_BESIDES, ROUNDING_FRAMES, ZOOM, initialState } from './sessionState';

/** The session once a seam is no longer played over and over. */
const afterSeamLoop = (state: SessionState): SessionState =>
  state.seamLoop ? { ...state, ...state.seamLoop.before, seamLoop: null, playing: false } : state;

const slice = createSlice({
  name: 'session',
  initialState,
  reducers: {
    began: (state): SessionState => ({
      ...initialState,
      theme: state.theme,
      unit: state.unit,
      axes: state.axes,
      autoFollow: state.autoFollow,
      ownKeys: state.ownKeys,
      soundOn: state.soundOn,
      folded: state.folded,
      toured: state.toured,
      libraryVersion: state.libraryVersion,
    }),
    preferred: (state, { payload }: PayloadAction<Preferences>) => ({ ...state, ...payload }),
    selected: (state, { payload }: PayloadAction<Selection>) => ({
      ...afterSeamLoop(state),
      selection: payload,
      picking: null,
      drawing: payload.kind === 'segment' && payload.id === state.drawing ? state.drawing : null,
      compared: null,
      keysInHand:
        payload.kind === 'layer' && payload.id === state.keysInHand?.layer ? state.keysInHand : null,
    }),
    picking: (state, { payload }: PayloadAction<SessionState['picking']>) => ({
      ...state,
      picking: payload,
    }),
    delayed: (state, { payload }: PayloadAction<DelayedLinks | null>): SessionState => ({
      ...state,
      delayed: payload,
    }),
    drawing: (state, { payload }: PayloadAction<string | null>) => ({ ...state, drawing: payload }),
    inAllAlternates: (state, { payload }: PayloadAction<boolean>) => ({ ...state, inAllAlternates: payload }),
    /** Sees other alternates beside the one in hand; of more than there is room for, the last ones. */
    besides: (state, { payload }: PayloadAction<readonly string[]>): SessionState => ({
      ...state,
      besides: payload.slice(-MOST_BESIDES),
    }),
    comparison: (state, { payload }: PayloadAction<SessionState['comparison']>): SessionState => ({
      ...state,
      comparison: payload,
    }),
    limbsKept: (state, { payload }: PayloadAction<Partial<KeptLimbs>>) => ({
      ...state,
      kept: { ...state.kept, ...payload },
    }),
    keysTaken: (state, { payload }: PayloadAction<KeysInHand | null>) => ({ ...state, keysInHand: payload }),
    keysCopied: (state, { payload }: PayloadAction<SessionState['copiedKeys']>): SessionState => ({
      ...state,
      copiedKeys: payload,
    }),
    /** Shows the keys of a layer list by list, or together again. */
    unfolded: (state, { payload }: PayloadAction<string>) => ({
      ...state,
      unfolded: state.unfolded.includes(payload)
        ? state.unfolded.filter((id) => id !== payload)
        : [...state.unfolded, payload],
    }),
    ringAxes: (state, { payload }: PayloadAction<SessionState['ringAxes']>) => ({
      ...state,
      ringAxes: payload,
    }),
    autoKeyed: (state, { payload }: PayloadAction<boolean>) => ({ ...state, autoKey: payload }),
    unkeyed: (state, { payload }: PayloadAction<Edit | null>): SessionState => ({
      ...state,
      unkeyed: payload,
    }),
    poseCopied: (state, { payload }: PayloadAction<SessionState['copiedPose']>): SessionState => ({
      ...state,
      copiedPose: payload,
    }),
    posed: (state, { payload }: PayloadAction<string | null>) => ({ ...state, posed: payload }),
    posing: (state, { payload }: PayloadAction<SessionState['posing']>) => ({ ...state, posing: payload }),
    compared: (state, { payload }: PayloadAction<ComparedMoments | null>) => ({
      ...state,
      compared: payload,
    }),
    /** Plays the frames around a seam over and over, seen from the front and the side; null goes back to how it was. */
    seamLooped: (state, { payload }: PayloadAction<Pick<SeamLoop, 'from' | 'to' | 'pace'> | null>) => {
      if (!payload) return afterSeamLoop(state);
      const { angle, axes, pace } = state;
      const before = state.seamLoop?.before ?? { angle, axes, pace };
      return {
        ...state,
        seamLoop: { ...payload, before },
        angle: 'both' as const,
        axes: 'character' as const,
        pace: payload.pace,
        frame: payload.from,
        playing: true,
      };
    },
    went: (state, { payload }: PayloadAction<number>) => ({
      ...state,
      frame: Math.max(0, Math.floor(payload + ROUNDING_FRAMES)),
    }),
    played: (state, { payload }: PayloadAction<boolean>) => ({ ...state, playing: payload }),
    looped: (state, { payload }: PayloadAction<boolean>) => ({ ...state, looping: payload }),
    zoomed: (state, { payload }: PayloadAction<number>) => ({
      ...state,
      pixelsPerFrame: Math.min(ZOOM.most, Math.max(ZOOM.least, payload)),
    }),
    edged: (state, { payload }: PayloadAction<EdgeUse>) => ({ ...state, edge: payload }),
    showedBelow: (state, { payload }: PayloadAction<SessionState['below']>) => ({ ...state, below: payload }),
    turned: (state, { payload }: PayloadAction<ViewAngle>) => ({ ...state, angle: payload }),
    filmedBy: (state, { payload }: PayloadAction<string | null>) => ({ ...state, filmedBy: payload }),
    filmViewed: (state, { payload }: PayloadAction<SessionState['filmView']>): SessionState => ({
      ...state,
      filmView: payload,
    }),
    guided: (state, { payload }: PayloadAction<boolean>) => ({ ...state, guides: payload }),
    ghosted: (state, { payload }: PayloadAction<SessionState['ghosts']>) => ({ ...state, ghosts: payload }),
    located: (state, { payload }: PayloadAction<SessionState['located']>): SessionState => ({
      ...state,
      located: payload,
    }),
    measuredBetween: (state, { payload }: PayloadAction<Measured | null>) => ({
      ...state,
      measured: payload,
    }),
    followed: (state, { payload }: PayloadAction<string | null>) => ({ ...state, follow: payload }),
    axesChosen: (state, { payload }: PayloadAction<SessionState['axes']>) => ({ ...state, axes: payload }),
    autoFollowed: (state, { payload }: PayloadAction<boolean>) => ({ ...state, autoFollow: payload }),
    framed: (state, { payload }: PayloadAction<'selection' | 'scene'>) => ({
      ...state,
      framing: { what: payload },
    }),
    sounded: (state, { payload }: PayloadAction<boolean>) => ({ ...state, soundOn: payload }),
    paced: (state, { payload }: PayloadAction<number>) => ({ ...state, pace: payload }),
    keysChosen: (state, { payload }: PayloadAction<SessionState['ownKeys']>) => ({
      ...state,
      ownKeys: payload,
    }),
    unitChosen: (state, { payload }: PayloadAction<TimeUnit>) => ({ ...state, unit: payload }),
    themed: (state, { payload }: PayloadAction<'day' | 'night'>) => ({ ...state, theme: payload }),
    libraryChanged: (state, { payload }: PayloadAction<number>) => ({ ...state, libraryVersion: payload }),
    refused: (state, { payload }: PayloadAction<Refusal | null>) => ({ ...state, refused: payload }),
    /** Shows a card of the tour; null leaves it. */
    touredTo: (state, { payload }: PayloadAction<number | null>) => ({
      ...state,
      tour: payload,
      toured: true,
    }),
    handMarked: (state, { payload }: PayloadAction<HandMarks>) => ({ ...state, handMarks: payload }),
    folded: (state, { payload }: PayloadAction<string>) => ({
      ...state,
      folded: state.folded.includes(payload)
        ? state.folded.filter((title) => title !== payload)
        : [...state.folded, payload],
    }),
    carried: (state, { payload }: PayloadAction<boolean>) => ({ ...state, carrying: payload }),
    choosing: (state, { payload }: PayloadAction<readonly string[]>) => ({ ...state, choosing: payload }),
    copied: (state, { payload }: PayloadAction<string>) => ({ ...state, copied: payload }),
    announced: (state, { payload }: PayloadAction<string>) => ({ ...state, announcement: payload }),
  },
});

export const sessionActions = slice.actions;
export const sessionReducer = slice.reducer;
