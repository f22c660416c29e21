/** The two encoders that every JavaScript runtime has (WHATWG Encoding), declared so that the core needs no DOM or Node types. */
declare class TextEncoder {
  encode(text: string): Uint8Array<ArrayBuffer>;
}
declare class TextDecoder {
  decode(bytes: Uint8Array): string;
}
