import { CodedError } from '../../../core/errors.ts';

/** Largest file that is taken in. */
export const MOST_BYTES = 20 * 2 ** 20;

/** First bytes of files that are often given the wrong name. */
const SIGNATURES: readonly (readonly [string, readonly number[]])[] = [
  ['a PNG picture', [0x89, 0x50, 0x4e, 0x47]],
  ['a JPEG picture', [0xff, 0xd8, 0xff]],
  ['a GIF picture', [0x47, 0x49, 0x46, 0x38]],
  ['a PDF document', [0x25, 0x50, 0x44, 0x46]],
  ['a zipped file or a workbook', [0x50, 0x4b, 0x03, 0x04]],
  ['an old workbook', [0xd0, 0xcf, 0x11, 0xe0]],
  ['a compressed file', [0x1f, 0x8b]]
];

export type Encoding = 'UTF-8' | 'UTF-16' | 'Latin-1';

/**
 * Turns the bytes of a file into text. UTF-8 with or without a byte-order mark and UTF-16 with one are recognised;
 * what is no UTF-8 is read as Latin-1 (as Windows-1252, which is what spreadsheets write under that name).
 * @throws CodedError `import-empty` or `import-not-text`
 */
export function decodeText(bytes: Uint8Array): { text: string; encoding: Encoding } {
  for (const [kind, signature] of SIGNATURES) {
    if (signature.every((byte, i) => bytes[i] === byte)) throw new CodedError('import-not-text', { kind });
  }
  const utf16 =
    bytes[0] === 0xff && bytes[1] === 0xfe
      ? 'utf-16le'
      : bytes[0] === 0xfe && bytes[1] === 0xff
        ? 'utf-16be'
        : null;
  if (utf16) return checked(new TextDecoder(utf16).decode(bytes), 'UTF-16');
  if (bytes.includes(0)) throw new CodedError('import-not-text', { kind: 'a program or a picture' });
  try {
    return checked(new TextDecoder('utf-8', { fatal: true }).decode(bytes), 'UTF-8');
  } catch (error) {
    if (error instanceof CodedError) throw error;
    return checked(new TextDecoder('windows-1252').decode(bytes), 'Latin-1');
  }
}

function checked(text: string, encoding: Encoding): { text: string; encoding: Encoding } {
  if (text.trim() === '') throw new CodedError('import-empty');
  return { text, encoding };
}
