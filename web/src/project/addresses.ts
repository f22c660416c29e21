/** Where things are fetched from; also known to the server, which has them fetched ahead. Everything is fetched through its project. */
export const projectUrl = (projectId: string) => `/api/projects/${projectId}`;
/** The project line by line. */
export const linesUrl = (projectId: string) => `${projectUrl(projectId)}/lines`;
export const fileUrl = (projectId: string, fileId: string) => `${projectUrl(projectId)}/files/${fileId}`;
export const bytesUrl = (projectId: string, fileId: string) => `${fileUrl(projectId, fileId)}/bytes`;
/** The bytes that pages are drawn from: with all layers on. */
export const drawingUrl = (projectId: string, fileId: string) => `${bytesUrl(projectId, fileId)}?for=drawing`;
export const passwordUrl = (projectId: string, fileId: string) => `${fileUrl(projectId, fileId)}/password`;
const pageUrl = (projectId: string, fileId: string, page: number) =>
  `${fileUrl(projectId, fileId)}/pages/${page}`;
export const tilesUrl = (projectId: string, fileId: string, page: number) =>
  `${pageUrl(projectId, fileId, page)}/tiles`;
export const lineworkUrl = (projectId: string, fileId: string, page: number) =>
  `${pageUrl(projectId, fileId, page)}/linework`;
export const pictureUrl = (projectId: string, fileId: string, page: number) =>
  `${pageUrl(projectId, fileId, page)}/picture`;
