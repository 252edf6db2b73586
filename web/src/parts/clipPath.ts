/** Address of a clip's page. */
export const clipPath = (id: string): string => `/library/clip/${encodeURIComponent(id)}`;

/** Address of the page on which a clip's bones are mapped. */
export const bonesPath = (id: string): string => `${clipPath(id)}/bones`;
