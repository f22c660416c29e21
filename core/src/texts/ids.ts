const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/;

/** Is a text a UUID in its usual form (RFC 9562, 4), in lower case? */
export const isUuid = (text: string): boolean => UUID.test(text);
