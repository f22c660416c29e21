/** Where things are fetched from; also known to the server, which has them fetched ahead. */
export const projectUrl = (projectId: string) => `/api/projects/${projectId}`;
export const fileUrl = (fileId: string) => `/api/files/${fileId}/bytes`;
export const lineworkUrl = (fileId: string, page: number) => `/api/files/${fileId}/pages/${page}/linework`;
export const pictureUrl = (fileId: string, page: number) => `/api/files/${fileId}/pages/${page}/picture`;
