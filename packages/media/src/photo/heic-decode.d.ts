declare module 'heic-decode' {
  /** Decodes the main picture of a HEIC file: RGBA, 8 bit, turned upright. */
  export default function decode(ask: { buffer: Uint8Array }): Promise<{ width: number; height: number; data: Uint8ClampedArray }>;
}
