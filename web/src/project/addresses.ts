/** Where things are fetched from; also known to the server, which has them fetched ahead. */
export const projectUrl = (projectId: string) => `/api/projects/${projectId}`;
export const fileUrl = (fileId: string) => `/api/files/${fileId}/bytes`;
/** The bytes that pages are drawn from: with all layers on. */
export const drawingUrl = (fileId: string) => `/api/files/${fileId}/bytes?for=drawing`;
export const tilesUrl = (fileId: string, page: number) => `/api/files/${fileId}/pages/${page}/tiles`;
export const lineworkUrl = (fileId: string, page: number) => `/api/files/${fileId}/pages/${page}/linework`;
export const pictureUrl = (fileId: string, page: number) => `/api/files/${fileId}/pages/${page}/picture`;
