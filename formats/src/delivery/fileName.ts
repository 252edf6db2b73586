/** A name for a file, without what file systems and shells refuse. */
export const fileName = (text: string): string =>
  // eslint-disable-next-line no-control-regex
  text.replace(/[\\/:*?"<>|\s\u0000-\u001f]+/g, '-').replace(/^[-.]+|[-.]+$/g, '') || 'scene';
