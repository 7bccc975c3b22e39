declare module 'bidi-js' {
  /** Levels by code unit: even from the left, odd from the right. */
  interface Bidi {
    getEmbeddingLevels(text: string, base: 'auto' | 'ltr' | 'rtl'): { readonly levels: Uint8Array };
  }
  export default function bidiFactory(): Bidi;
}
