/** A card of the tour: what it is about, and the part of the workbench that it stands beside. */
export interface TourCard {
  readonly title: string;
  readonly text: string;
  /** The `data-tour` of that part. */
  readonly at: string;
  readonly side: 'top' | 'right' | 'bottom' | 'left';
}

/** The tour of the workbench, in the order of the work. */
export const TOUR: readonly TourCard[] = [
  {
    title: 'Clips',
    text: 'Every clip of your library, with its steps and what it does. Drag one onto a lane, or double-click it: it joins the end of the lane.',
    at: 'clips',
    side: 'right',
  },
  {
    title: 'Lanes',
    text: 'A character performs what is on its lane, from left to right. Drag a segment to move it, an edge to trim it. Where two share frames they crossfade.',
    at: 'lanes',
    side: 'top',
  },
  {
    title: 'View',
    text: 'The scene exactly as it will be baked. Space plays it; V brings what is selected into view.',
    at: 'view',
    side: 'bottom',
  },
  {
    title: 'Selection',
    text: 'What is selected, with all its settings. Select a seam to see how its join measures, and to change how it is fitted.',
    at: 'card',
    side: 'left',
  },
  {
    title: 'Seams',
    text: 'How many joins need a look. Press it for the list, the worst first.',
    at: 'seams',
    side: 'bottom',
  },
  {
    title: 'Everything by name',
    text: 'Ctrl+K finds each command, clip, character and place by its name. Every command has its key beside it; keys can be changed.',
    at: 'help',
    side: 'bottom',
  },
  {
    title: 'Bake',
    text: 'Writes one continuous motion per character, as GLB, USD, BVH and more. Nothing in it differs from what the view showed.',
    at: 'bake',
    side: 'bottom',
  },
];
