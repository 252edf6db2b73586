/** Address of a clip's page. */
export const clipPath = (id: string): string => `/library/clip/${encodeURIComponent(id)}`;
