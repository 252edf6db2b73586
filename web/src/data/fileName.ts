/** A name for a file, without what file systems refuse. */
export const fileName = (text: string): string =>
  text.replace(/[\\/:*?"<>|\s]+/g, '-').replace(/^-+|-+$/g, '') || 'scene';
