declare module 'gltf-validator' {
  /** What the validator finds in bytes, as far as the tests ask. */
  export function validateBytes(
    bytes: Uint8Array,
    options?: { maxIssues?: number },
  ): Promise<{ issues: { numErrors: number; numWarnings: number; messages: unknown[] } }>;
}
